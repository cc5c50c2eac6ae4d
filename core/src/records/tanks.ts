import type { Instant } from '../units/instant.ts';
import type { Text } from '../units/words.ts';
import type { ChartRule } from '../units/chart.ts';
import type { Slurry } from './coat-plan.ts';
import type { Id } from './common.ts';

/** A slurry tank, kept moving day and night. */
export interface Tank {
  readonly id: Id;
  readonly name: string;
  readonly slurry: Slurry;
  /** What it holds when it is full, l; and below which level, of full, nothing can be dipped in it. */
  readonly litres: number;
  readonly leastShare: number;
  /** Of the slurry as it is used, g/cm³. */
  readonly densityGPerCm3: number;
  /** Which flow cup: `4 mm cup`. */
  readonly cup: string;
  /** The sheet's own limits, s; those of the chart's base period where they are narrower. */
  readonly lowS: number | null;
  readonly highS: number | null;
  /** Below this the binder gels, where the sheet says so. */
  readonly leastPh: number | null;
  readonly checkEveryHours: number;
  /** From and to when the values were that the chart's limits come from; somebody chose it. */
  readonly base: { readonly from: Instant; readonly to: Instant } | null;
  readonly state: 'in use' | 'off';
  readonly version: number;
}

export const TOP_UPS = ['slurry', 'binder', 'flour', 'water'] as const;
export type TopUpKind = (typeof TOP_UPS)[number];

export interface TopUp {
  readonly what: TopUpKind;
  readonly kg: number;
  readonly lot: string;
}

/** What somebody found at a tank. */
export interface TankCheck {
  readonly id: Id;
  readonly tankId: Id;
  readonly at: Instant;
  readonly mixer: 'running' | 'stopped';
  readonly viscosityS: number | null;
  readonly celsius: number | null;
  readonly densityGPerCm3: number | null;
  readonly ph: number | null;
  /** Of full. */
  readonly level: number | null;
  readonly sieved: boolean;
  readonly toppedUp: readonly TopUp[];
  readonly note: string;
  readonly byId: Id | null;
  readonly voidReason: string | null;
  readonly version: number;
}

/** What somebody decided of a tank that was not as it should be, and of the coats that were dipped in it. */
export interface TankDecision {
  readonly id: Id;
  readonly tankId: Id;
  readonly at: Instant;
  /** The coats that are in doubt stand, or stay in doubt. */
  readonly coatsStand: boolean;
  readonly words: string;
  readonly byId: Id | null;
  readonly voidReason: string | null;
  readonly version: number;
}

/** How a tank stands. */
export interface TankStand {
  readonly tankId: Id;
  readonly name: string;
  readonly slurry: Slurry;
  /** Since when nothing is dipped in it, until somebody decides; null where it may be. */
  readonly blockedSince: Instant | null;
  /** The last time it was found good before: coats from then on are in doubt. */
  readonly doubtFrom: Instant | null;
  /** What is wrong with it. */
  readonly why: Text | null;
  readonly nextCheckAt: Instant | null;
}

/** A check on the chart, with the signs that it gives. */
export interface ChartedCheck {
  readonly check: TankCheck;
  readonly signs: readonly ChartRule[];
  readonly faults: readonly Text[];
}
