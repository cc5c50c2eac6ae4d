import type { Instant } from '../units/instant.ts';
import type { DryingPlace, DrynessMeans } from './climate.ts';
import type { CoatPlan } from './coat-plan.ts';
import type { Id } from './common.ts';
import type { Tank, TankCheck, TankDecision } from './tanks.ts';
import type { SectionShape } from './work.ts';

/** The air as somebody read it off. */
export interface TypeClimate {
  readonly placeId: Id;
  readonly at: Instant;
  readonly celsius: number;
  readonly humidityPercent: number;
}

/** A data logger's file. */
export interface ImportClimate {
  readonly placeId: Id;
  readonly name: string;
  readonly text: string;
}

/** What became of a file: how many readings were new, how many were there already, what was left out. */
export interface ImportedClimate {
  readonly added: number;
  readonly known: number;
  readonly left: readonly { readonly line: number; readonly why: string }[];
  readonly notes: readonly string[];
  readonly from: Instant;
  readonly until: Instant;
}

export type SaveDryingPlace = DryingPlace;

/** Trees are hung somewhere else, or on other hooks. */
export interface HangTrees {
  readonly treeIds: readonly Id[];
  readonly placeId: Id;
  readonly hook: string;
  readonly at: Instant;
}

/** Somebody looked whether a coat is dry. */
export interface LookAtCoat {
  readonly id: Id;
  readonly stepId: Id;
  readonly at: Instant;
  readonly means: DrynessMeans;
  readonly dry: boolean;
  /** 0 to 1, where scale or meter told it. */
  readonly share: number | null;
  readonly note: string;
}

/** A coat plan of the shop as it is to be from now on; its number is given when it is kept. */
export interface SaveCoatPlan {
  /** The number that whoever changes it saw; 0 for a new plan. */
  readonly seen: number;
  readonly plan: CoatPlan;
}

/** One tree is shelled in another way, for a reason. */
export interface ChangeTreeCoats {
  readonly version: number;
  readonly planCode: string;
  readonly coats: number;
  readonly why: string;
}

export type SaveTank = Tank;
export type CheckTank = Omit<TankCheck, 'byId' | 'voidReason' | 'version'>;
export type DecideTank = Omit<TankDecision, 'at' | 'byId' | 'voidReason' | 'version'>;

/** What pushes hardest on a section's shell. */
export interface SaveShape extends SectionShape {
  readonly version: number;
}
