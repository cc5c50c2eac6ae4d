import type { Instant } from '../units/instant.ts';
import type { Override } from './answers.ts';
import type { Id } from './common.ts';
import type { ChargeLine, CrewPlace, Signs } from './pour.ts';

/** A tree in a heat's plan. Kilograms only where a person types over what was worked out. */
export interface HeatTree {
  readonly treeId: Id;
  readonly plannedKg?: number | undefined;
}

export type ChargeGiven = Pick<ChargeLine, 'what' | 'alloyId' | 'kg' | 'lot' | 'dry'>;

export interface HeatPlan {
  readonly plannedFor: Instant | null;
  /** In pouring order. */
  readonly trees: readonly HeatTree[];
  readonly chargeLines: readonly ChargeGiven[];
}

export interface PlanHeat extends HeatPlan {
  readonly id: Id;
  readonly alloyId: string;
  readonly override?: readonly Override[];
}

export interface ChangeHeat extends HeatPlan {
  readonly version: number;
  readonly override?: readonly Override[];
}

export interface ConfirmCrew {
  readonly version: number;
  readonly crew: readonly CrewPlace[];
  readonly signs: Signs;
  readonly coverConfirmed: true;
}

export interface PourTree {
  readonly version: number;
  readonly treeId: Id;
  readonly outcome: string;
  readonly startedAt: Instant | null;
  readonly endedAt: Instant;
  readonly by: readonly Id[];
  readonly readings: Readonly<Record<string, unknown>>;
  readonly typed?: Readonly<Record<string, string>>;
  readonly taken?: readonly string[];
  readonly note: string;
  readonly override?: readonly Override[];
}

export interface FinishHeat {
  readonly version: number;
  readonly endedAt: Instant;
  readonly by: readonly Id[];
  readonly pigKg: number;
  readonly typed?: Readonly<Record<string, string>>;
  readonly taken?: readonly string[];
  readonly note: string;
}

/** A heat or load that is given up. */
export interface Abandon {
  readonly version: number;
  readonly reason: string;
}
