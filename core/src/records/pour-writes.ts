import type { Instant } from '../units/instant.ts';
import type { Override } from './answers.ts';
import type { Id } from './common.ts';
import type { ChargeLine, CrewPlace, HeatReading, PourCheck, Signs } from './pour.ts';

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
  /** The pot it is melted in; left out where it stays, or the shop has entered none. */
  readonly crucibleId?: Id | null;
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
  /** What was looked at: all that is forgotten before a pour. */
  readonly checks: readonly PourCheck[];
  readonly coverConfirmed: true;
}

/** A temperature that was read. @see HeatReading */
export interface ReadHeat extends Pick<
  HeatReading,
  'id' | 'treeId' | 'at' | 'celsius' | 'where' | 'means' | 'instrument'
> {
  /** How far it can be off, K; usual for how it was read where left out. */
  readonly plusMinusK?: number;
  readonly typed?: Readonly<Record<string, string>>;
  readonly override?: readonly Override[];
}

/** The furnace is lit for a heat. */
export interface LightHeat {
  readonly at: Instant;
}

/** A shell leaves the kiln. */
export interface ShellOut {
  readonly treeId: Id;
  readonly at: Instant;
}

/** Where trees of a heat are set in the pit; null takes one out of its place. */
export interface SetInPit {
  readonly places: readonly { readonly treeId: Id; readonly place: number | null }[];
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
  /** What the meter counted since the furnace was lit, kWh; left out where nobody read it. */
  readonly energyKwh?: number | null;
  readonly override?: readonly Override[];
  readonly typed?: Readonly<Record<string, string>>;
  readonly taken?: readonly string[];
  readonly note: string;
}

/** A heat or load that is given up. */
export interface Abandon {
  readonly version: number;
  readonly reason: string;
}
