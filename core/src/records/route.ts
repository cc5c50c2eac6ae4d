import type { Instant } from '../units/instant.ts';
import type { Text } from '../units/words.ts';
import type { Override } from './answers.ts';
import type { Carrier, Id, Room } from './common.ts';
import type { PinKind, StepKindCode, StepState } from './step.ts';

/** A shop's own minutes and waits of a step kind; what it has not entered is the default route's. */
export interface KindTimes {
  readonly minutes?: number;
  readonly minWait?: number;
  /** null: no maximum. */
  readonly maxWait?: number | null;
}

export type RouteTimes = Readonly<Partial<Record<StepKindCode, KindTimes>>>;

/** The next step of a carrier, as a list or a card shows it. */
export interface NextStep {
  readonly stepId: Id;
  readonly kind: StepKindCode;
  readonly name: string;
  /** What it is done to. */
  readonly on: string;
  /** The works that it is done for: `Otter with Reed`. */
  readonly title: string;
  /** The numbers that it is done by: wax and wall, slurry and stucco, kilograms and °C. */
  readonly numbers: Text;
  readonly carrier: Carrier;
  readonly carrierId: Id;
  readonly room: Room;
  readonly state: StepState;
  readonly waits: readonly string[];
  readonly held: boolean;
  readonly readyAt: Instant | null;
  readonly tooOldAt: Instant | null;
}

/** One reading of a step, said by its name. */
export interface ReadingLine {
  readonly key: string;
  readonly label: string;
  readonly value: Text;
  /** Nobody read it off: it was taken over. */
  readonly taken: boolean;
  /** As it was typed, in another unit. */
  readonly typed?: string;
}

/** A step with its people and standing, as the Piece page draws it. */
export interface StepView {
  readonly id: Id;
  readonly kind: StepKindCode;
  readonly name: string;
  readonly on: string;
  readonly room: Room;
  readonly carrier: Carrier;
  readonly carrierId: Id;
  readonly sequence: number;
  readonly state: StepState;
  readonly outcome: string | null;
  readonly startedAt: Instant | null;
  readonly endedAt: Instant | null;
  readonly by: readonly string[];
  readonly readings: Readonly<Record<string, unknown>>;
  /** The version of the definitions that the readings were made with. */
  readonly readingsVersion: number;
  readonly typed: Readonly<Record<string, string>>;
  readonly taken: readonly string[];
  /** Everything that was read, a line each. */
  readonly told: readonly ReadingLine[];
  readonly note: string;
  readonly flags: readonly string[];
  readonly insertedWhy: string | null;
  readonly through: 'load' | 'heat' | null;
  readonly waits: readonly string[];
  readonly held: boolean;
  readonly readyAt: Instant | null;
  readonly tooOldAt: Instant | null;
  readonly pinKind: PinKind | null;
  readonly pinAt: Instant | null;
  readonly plannedStart: Instant | null;
  readonly plannedEnd: Instant | null;
  readonly version: number;
}

/** What the record panel sends. */
export interface RecordStep {
  readonly version: number;
  readonly outcome: string;
  readonly startedAt: Instant | null;
  readonly endedAt: Instant;
  readonly by: readonly Id[];
  readonly readings: Readonly<Record<string, unknown>>;
  /** What was typed in other units, by the reading's key. */
  readonly typed?: Readonly<Record<string, string>>;
  /** Keys of readings taken over from what was planned or said last. */
  readonly taken?: readonly string[];
  readonly note: string;
  readonly override?: readonly Override[];
}

/** One of several steps that are recorded at once, with what is its own: the slurry of its coat, the weight of its wax. */
export interface OneOfMany {
  readonly id: Id;
  readonly version: number;
  readonly readings?: Readonly<Record<string, unknown>>;
  readonly typed?: Readonly<Record<string, string>>;
  readonly taken?: readonly string[];
}

/** Several steps of one kind recorded at once: a tray of dips. Readings are what they have in common. */
export interface RecordMany {
  readonly steps: readonly OneOfMany[];
  readonly outcome: string;
  readonly startedAt: Instant | null;
  readonly endedAt: Instant;
  readonly by: readonly Id[];
  readonly readings: Readonly<Record<string, unknown>>;
  /** What was typed in other units, by the reading's key. */
  readonly typed?: Readonly<Record<string, string>>;
  /** Keys of readings taken over from what was planned or said last. */
  readonly taken?: readonly string[];
  readonly note: string;
  readonly override?: readonly Override[];
}

export interface SavePin {
  readonly version: number;
  /** null takes the pin off. */
  readonly kind: PinKind | null;
  readonly at: Instant | null;
}

export interface StartStep {
  readonly version: number;
  readonly startedAt: Instant;
  /** What is known at its begin: the mould and the wax of a pull. */
  readonly readings: Readonly<Record<string, unknown>>;
  readonly override?: readonly Override[];
}

export interface InsertStep {
  readonly kind: StepKindCode;
  readonly carrier: 'mould' | 'cast' | 'tree' | 'piece';
  readonly carrierId: Id;
  readonly why: string;
  readonly afterId?: Id | undefined;
}

export interface TakeBack {
  readonly reason: string;
}
