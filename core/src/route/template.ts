import type { CoatPlan } from '../records/coat-plan.ts';
import type { StepKindCode } from '../records/step.ts';
import type { Finishing, Method } from '../records/work.ts';

/** A place in a tree's route: a kind, or as many layers of a kind as the shell gets. */
export type TreePlace = StepKindCode | { readonly coats: StepKindCode };

/** The way of one method from the wax to the metal. */
export interface MethodRoute {
  readonly wax: readonly StepKindCode[];
  readonly tree: readonly TreePlace[];
  readonly metal: readonly StepKindCode[];
}

/**
 * The steps that works need, in order, as data, in a version. A piece keeps the version it began with; a change makes a new
 * version, which counts for pieces begun from then on.
 */
export interface RouteTemplate {
  readonly version: number;
  readonly mould: readonly StepKindCode[];
  readonly methods: Readonly<Record<Method, MethodRoute>>;
  /** Whose waxes are shown is the work's choice (first, each, none); this is the step. */
  readonly approval: StepKindCode;
  readonly join: StepKindCode;
  readonly finishing: Readonly<Record<Finishing, readonly StepKindCode[]>>;
  /** The way of a tree where dewax and firing are two things with a look between; the usual one where absent. */
  readonly twoStages?: Readonly<Partial<Record<Method, readonly TreePlace[]>>>;
  /** The shop dewaxes and fires apart. */
  readonly inTwoStages?: boolean;
  /** How the shop shells: its own plan, where it has one. */
  readonly coatPlan?: CoatPlan;
}
