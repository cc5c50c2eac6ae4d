import type { Instant } from '../units/instant.ts';
import type { Carrier, Id } from './common.ts';
import type { Decided } from './question.ts';

export const STEP_STATES = ['planned', 'running', 'done', 'again', 'lost', 'skipped', 'void'] as const;

export type StepState = (typeof STEP_STATES)[number];

/** A kind of step: rooms bring their own, so the records know it by its code alone. */
export type StepKindCode = string;

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
  /** What was typed in another unit than the one that is kept, by the reading's key: `2 lb 4 oz`. */
  readonly typed: Readonly<Record<string, string>>;
  /** Readings that nobody read off: taken over from what was planned, or said last. */
  readonly taken: readonly string[];
  readonly note: string;
  /** `too old`, `order overridden` …: what a reader should see beside it. */
  readonly flags: readonly string[];
  /** How a person decided what it asks; null where it asks nothing, or nobody has. */
  readonly decided: Decided | null;
  /** A person said when it shall be done. */
  readonly pinKind: PinKind | null;
  readonly pinAt: Instant | null;
  readonly version: number;
}

/** A step that has ended, however it ended; `void` ones never happened. */
export const CLOSED: ReadonlySet<StepState> = new Set(['done', 'again', 'lost', 'skipped']);

export const isClosed = (step: Pick<Step, 'state'>): boolean => CLOSED.has(step.state);

export const isOpen = (step: Pick<Step, 'state'>): boolean => step.state === 'planned' || step.state === 'running';

/** A person said when a step shall be done: not before an instant, or exactly at it. */
export const PINS = ['not before', 'at'] as const;

export type PinKind = (typeof PINS)[number];
