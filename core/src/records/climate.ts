import type { Instant } from '../units/instant.ts';
import type { Text } from '../units/words.ts';
import type { Id } from './common.ts';

/** The air of a room at a moment. */
export interface ClimateReading {
  readonly at: Instant;
  readonly celsius: number;
  /** Relative, 0 to 100. */
  readonly humidityPercent: number;
}

/** How a reading came in. */
export const CLIMATE_SOURCES = ['sensor', 'typed', 'file'] as const;
export type ClimateSource = (typeof CLIMATE_SOURCES)[number];

/** A reading as it is kept: where, and how it came. */
export interface KeptClimate extends ClimateReading {
  readonly placeId: Id;
  readonly source: ClimateSource;
}

/** Where shells hang to dry: a room with its air, or a cabinet with its own. */
export interface DryingPlace {
  readonly id: Id;
  readonly name: string;
  readonly kind: 'room' | 'cabinet';
  /** 1 for the draught of the reference, less in a stronger one: (v_ref ÷ v)^0.5. */
  readonly airflow: number;
  /** Trees that it takes at once. */
  readonly hooks: number;
  readonly state: 'in use' | 'off';
  readonly version: number;
}

/** Where a tree hangs, and since when; the last one is where it hangs now. */
export interface Hanging {
  readonly placeId: Id;
  /** Rack and hook, in the shop's own marks. */
  readonly hook: string;
  readonly since: Instant;
}

/**
 * How thirsty the air of a place was and will be, ready to be added up: `thirst` is what has added up to each moment, in
 * kelvin of wet bulb depression times hours.
 */
export interface DryingAir {
  readonly ms: readonly number[];
  /** Wet bulb depression from each moment on, K. */
  readonly kelvin: readonly number[];
  readonly thirst: readonly number[];
  /** What lies beyond is expected, not read. */
  readonly readUntilMs: number;
  /** What is expected on the mean of a day and night, K. */
  readonly expectedK: number;
}

export const DRYNESS_MEANS = ['scale', 'conductivity', 'touch'] as const;
export type DrynessMeans = (typeof DRYNESS_MEANS)[number];

/** Somebody looked whether a coat is dry: it beats every estimate. */
export interface DrynessReading {
  readonly id: Id;
  readonly treeId: Id;
  /** The coat that dries. */
  readonly stepId: Id;
  readonly at: Instant;
  readonly means: DrynessMeans;
  readonly dry: boolean;
  /** How much of its water it has lost, 0 to 1, where that was told. */
  readonly share: number | null;
  /** What the estimate said at that moment, with nothing learned: what is learned from. */
  readonly formulaShare: number | null;
  readonly note: string;
  readonly byId: Id | null;
  readonly voidReason: string | null;
  readonly version: number;
}

/** What the shop's own readings say of its reference time. */
export interface LearnedDrying {
  /** The reference times by this. */
  readonly factor: number;
  readonly n: number;
}

/** The air that the shop's shells dry in. */
export interface ShopClimate {
  readonly places: readonly {
    readonly id: Id;
    readonly name: string;
    readonly airflow: number;
    readonly air: DryingAir | null;
  }[];
  /** Wet bulb depression that the shop's reference times are for, K. */
  readonly referenceK: number;
  readonly learned: LearnedDrying;
}

/** Something about the air that somebody should know of. */
export interface ClimateAlarm {
  readonly code: 'damp' | 'nothing dries' | 'jump' | 'silent' | 'stuck';
  readonly says: Text;
}
