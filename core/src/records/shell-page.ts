import type { Text } from '../units/words.ts';
import type { Figure } from '../units/figure.ts';
import type { Instant } from '../units/instant.ts';
import type { ClimateAlarm, DryingPlace, DrynessMeans, KeptClimate, LearnedDrying } from './climate.ts';
import type { Slurry, Stucco } from './coat-plan.ts';
import type { Id } from './common.ts';
import type { PlanStand } from './plan.ts';
import type { StepKindCode } from './step.ts';
import type { SectionShape } from './work.ts';

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

/** Whether a part of a shell holds its metal. */
export interface StrengthView {
  readonly part: 'round' | 'flat';
  readonly sizeMm: number;
  readonly stress: Figure;
  /** Of what it may bear with its safety; above 1 too much. */
  readonly share: number;
  readonly coatsMore: number;
}

/** How the last coat of a tree dries. */
export interface DryingView {
  readonly stepId: Id;
  readonly dippedAt: Instant;
  /** Null where nothing dries in its air. */
  readonly dryAt: Instant | null;
  /** The share that has dried, from the dip to when it is dry, and never beyond three days. */
  readonly points: readonly { readonly at: Instant; readonly share: number }[];
  readonly placeId: Id | null;
  /** What it takes in the reference's air, and what goes into the sum. */
  readonly referenceMinutes: number;
  readonly referenceK: number;
  readonly learned: LearnedDrying;
  readonly airflow: number;
  /** The wet bulb depression on the mean of its drying. */
  readonly meanK: number | null;
  readonly looks: readonly {
    readonly at: Instant;
    readonly means: DrynessMeans;
    readonly dry: boolean;
    readonly share: number | null;
  }[];
}

export interface CoatRow {
  readonly treeId: Id;
  /** Of the tree. */
  readonly version: number;
  /** How it is shelled; null of one that was joined before there were plans. */
  readonly coatPlan: { readonly name: string; readonly number: number; readonly why: string | null } | null;
  readonly label: string;
  /** The works that hang on it. */
  readonly title: string;
  readonly pieceIds: readonly Id[];
  readonly readyAt: Instant | null;
  readonly tooOldAt: Instant | null;
  readonly waits: readonly string[];
  readonly plannedStart: Instant | null;
  readonly coats: readonly CoatView[];
  /** Wax and shell, over the lift limit or not. */
  readonly lift: { readonly weight: Figure; readonly tooHeavy: boolean; readonly inWords: Text } | null;
  /** The slurry and stucco of the next coat, by its plan. */
  readonly slurry: Slurry | null;
  readonly stucco: Stucco | null;
  /** Wall so far and when it is sealed, mm. */
  readonly wall: { readonly nowMm: number; readonly sealedMm: number; readonly measured: boolean };
  /** Shell and metal after the pour. */
  readonly poured: { readonly weight: Figure; readonly tooHeavy: boolean; readonly inWords: Text } | null;
  /** Whether the shell holds its metal, by what is known of its shape. */
  readonly strength: readonly StrengthView[];
  /** The sections on it, each once, with what is known of their shape. */
  readonly sections: readonly {
    readonly id: Id;
    readonly name: string;
    readonly version: number;
    readonly metalHeightMm: number | null;
    readonly shape: SectionShape | null;
  }[];
  readonly drying: DryingView | null;
  readonly hangs: { readonly placeId: Id; readonly hook: string } | null;
}

/** The air of a place as the page shows it. */
export interface PlaceAir {
  readonly place: DryingPlace;
  /** Of the last two days, in the order of time; a reading a quarter of an hour at most. */
  readonly readings: readonly KeptClimate[];
  /** Wet bulb depression now, K; null where nothing was read. */
  readonly kelvin: number | null;
  /** What is expected in the hours to come, K. */
  readonly expected: readonly { readonly at: Instant; readonly kelvin: number }[];
  readonly alarms: readonly ClimateAlarm[];
  readonly trees: number;
}

export interface CoatsAnswer {
  readonly change: number;
  readonly now: Instant;
  readonly plan: PlanStand;
  readonly rows: readonly CoatRow[];
  readonly places: readonly PlaceAir[];
}
