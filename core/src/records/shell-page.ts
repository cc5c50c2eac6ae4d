import type { Text } from '../units/words.ts';
import type { Figure } from '../units/figure.ts';
import type { Instant } from '../units/instant.ts';
import type { Id } from './common.ts';
import type { PlanStand } from './plan.ts';
import type { StepKindCode } from './step.ts';

/** A coat of a tree on the ledger. */
export interface CoatView {
  readonly stepId: Id;
  readonly kind: StepKindCode;
  readonly version: number;
  readonly sequence: number;
  readonly name: string;
  readonly state: 'done' | 'next' | 'later';
  readonly at: Instant | null;
  readonly by: readonly string[];
  readonly readings: Text;
  readonly flags: readonly string[];
}

export interface CoatRow {
  readonly treeId: Id;
  readonly label: string;
  readonly pieceIds: readonly Id[];
  readonly readyAt: Instant | null;
  readonly tooOldAt: Instant | null;
  readonly waits: readonly string[];
  readonly plannedStart: Instant | null;
  readonly coats: readonly CoatView[];
  /** Wax and shell, over the lift limit or not. */
  readonly lift: { readonly weight: Figure; readonly tooHeavy: boolean; readonly inWords: Text } | null;
}

export interface CoatsAnswer {
  readonly change: number;
  readonly now: Instant;
  readonly plan: PlanStand;
  readonly rows: readonly CoatRow[];
}
