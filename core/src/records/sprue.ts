import type { Instant } from '../units/instant.ts';
import type { Hanging } from './climate.ts';
import type { TreeCoats } from './coat-plan.ts';
import type { Id } from './common.ts';
import type { Method } from './work.ts';

export const TREE_STATES = ['planned', 'joined', 'poured', 'knocked out', 'lost', 'void'] as const;

export type TreeState = (typeof TREE_STATES)[number];

/** One or more casts joined with runners, vents and a cup: what is shelled, burnt out and poured. One alloy, one method. */
export interface Tree {
  readonly id: Id;
  readonly number: number;
  readonly alloyId: string;
  readonly method: Exclude<Method, 'direct'>;
  readonly state: TreeState;
  /** Where it hung and hangs to dry, the last one last; nothing where nobody said so. */
  readonly hangs?: readonly Hanging[];
  /** How much room it takes in the kiln with its cup down, where somebody measured it, mm. */
  readonly footprint?: { readonly acrossMm: number; readonly deepMm: number; readonly highMm: number } | null;
  /** The coat plan that it began with, or that somebody changed for it; none of a tree that is not joined. */
  readonly coatPlan?: TreeCoats | null;
  readonly version: number;
}

/** A cast's time in a tree; `until` is null while it is in it. */
export interface TreeCast {
  readonly id: Id;
  readonly treeId: Id;
  readonly castId: Id;
  readonly since: Instant | null;
  readonly until: Instant | null;
  readonly version: number;
}
