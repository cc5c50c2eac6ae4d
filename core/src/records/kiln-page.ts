import type { Figure } from '../units/figure.ts';
import type { Instant } from '../units/instant.ts';
import type { Text } from '../units/words.ts';
import type { FiringState, KilnProfile, LoadPurpose, ProfileUse, StandsOn } from './burnout.ts';
import type { Id } from './common.ts';

/** How a load's hold came out against its profile. */
export interface HoldOutcome {
  readonly holdC: number;
  readonly plannedMinutes: number;
  readonly heldMinutes: number;
  readonly shortMinutes: number;
}

/** What the thermocouples say of a load. */
export interface LoadVerdict {
  readonly holds: readonly HoldOutcome[];
  /** The coldest behind the warmest at most, K; of one thermocouple nothing is said. */
  readonly lagK: number | null;
  readonly hottestC: number | null;
  /** Fused silica weakens with the hours above 1000 °C: they are counted on each shell. */
  readonly above1000Minutes: number;
  readonly alarms: readonly Text[];
}

/** A tree that is, or could be, in the kiln. */
export interface KilnTreeView {
  readonly treeId: Id;
  readonly version: number;
  readonly label: string;
  readonly title: string;
  readonly acrossMm: number;
  readonly deepMm: number;
  readonly highMm: number;
  readonly measured: boolean;
  readonly kg: number | null;
  /** What it goes into the kiln for: its wax, its firing, or a block's slow way. */
  readonly use: ProfileUse;
  /** Firings that it has had. */
  readonly firings: number;
  /** How long it has stood above 1000 °C in all of them, where a thermocouple read it: a shell weakens there. */
  readonly above1000Minutes: number;
  /** When it may go in; null while it waits for something. */
  readonly readyAt: Instant | null;
  readonly waits: readonly string[];
}

/** A load that is planned or burns. */
export interface KilnLoadView {
  readonly id: Id;
  readonly number: number;
  readonly version: number;
  readonly state: FiringState;
  readonly purpose: LoadPurpose;
  readonly profileId: Id | null;
  readonly startedAt: Instant | null;
  readonly trees: readonly (KilnTreeView & { readonly floor: StandsOn | null })[];
  /** Which of the trees that wait would still find a place beside these. */
  readonly alsoFit: readonly Id[];
  readonly couples: readonly Couple[];
  readonly verdict: LoadVerdict;
  readonly waxInKg: number | null;
}

/** A thermocouple's readings, thinned to what can be drawn. */
export interface Couple {
  readonly channel: string;
  readonly readings: readonly { readonly at: Instant; readonly celsius: number }[];
}

/** What became of a month's wax, kg. */
export interface WaxMonth {
  /** `2027-03`. */
  readonly month: string;
  readonly loads: number;
  readonly inKg: number;
  readonly backKg: number;
  readonly missingKg: number;
  readonly energyKwh: number;
}

export interface PastLoad {
  readonly id: Id;
  readonly number: number;
  readonly purpose: LoadPurpose;
  readonly state: FiringState;
  readonly endedAt: Instant | null;
  readonly profile: string;
  readonly topC: number | null;
  readonly trees: number;
  readonly waxInKg: number | null;
  readonly waxBackKg: number | null;
  readonly energyKwh: number | null;
}

export interface KilnAnswer {
  readonly change: number;
  readonly now: Instant;
  readonly floor: {
    readonly acrossMm: number;
    readonly deepMm: number;
    readonly highMm: number;
    readonly gapMm: number;
  };
  readonly mostKg: number;
  readonly waiting: readonly KilnTreeView[];
  readonly loads: readonly KilnLoadView[];
  readonly profiles: readonly KilnProfile[];
  /** The newest first. */
  readonly past: readonly PastLoad[];
  readonly wax: readonly WaxMonth[];
}

/** What the kiln's own part of a load's record is. */
export interface LoadFire {
  readonly profile: KilnProfile | null;
  readonly couples: readonly Couple[];
  readonly verdict: LoadVerdict;
  readonly floor: KilnAnswer['floor'];
  readonly stands: readonly { readonly treeId: Id; readonly label: string; readonly floor: StandsOn }[];
  readonly wax: {
    readonly castsKg: number;
    readonly barsKg: number;
    readonly cupsKg: number;
    readonly recoveredKg: number | null;
    readonly says: Text;
    readonly looks: boolean;
  } | null;
  /** kWh a kilogram of shell; null where either is not known. */
  readonly energyAKg: Figure | null;
}
