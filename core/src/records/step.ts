import type { Instant } from '../units/instant.ts';
import type { Carrier, Id } from './common.ts';
import type { PinKind } from './planning.ts';
import type { StepKindCode } from './step-kinds.ts';

export const STEP_STATES = ['planned', 'running', 'done', 'again', 'lost', 'skipped', 'void'] as const;
export type StepState = (typeof STEP_STATES)[number];

/** One operation on one carrier: planned, then done, with readings, people, a time and an outcome. It holds no planned date. */
export interface Step {
  readonly id: Id;
  readonly kind: StepKindCode;
  readonly carrier: Carrier;
  readonly carrierId: Id;
  /** Coat number or join number; 0 where the kind occurs once. */
  readonly sequence: number;
  /** For a join: which section it joins. */
  readonly sectionId: Id | null;
  readonly insertedAfter: Id | null;
  readonly insertedWhy: string | null;
  readonly state: StepState;
  readonly startedAt: Instant | null;
  readonly endedAt: Instant | null;
  readonly by: readonly Id[];
  readonly recordedBy: Id | null;
  readonly outcome: string | null;
  readonly readings: Readonly<Record<string, unknown>>;
  readonly readingsVersion: number;
  readonly note: string;
  /** `too old`, `order overridden` …: what a reader should see beside it. */
  readonly flags: readonly string[];
  /** A person said when it shall be done. */
  readonly pinKind: PinKind | null;
  readonly pinAt: Instant | null;
  readonly version: number;
}

/** A step that has ended, however it ended; `void` ones never happened. */
export const CLOSED: ReadonlySet<StepState> = new Set(['done', 'again', 'lost', 'skipped']);
export const isClosed = (step: Pick<Step, 'state'>): boolean => CLOSED.has(step.state);
export const isOpen = (step: Pick<Step, 'state'>): boolean => step.state === 'planned' || step.state === 'running';
