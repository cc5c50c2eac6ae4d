import type { CautionCode } from '../records/cautions.ts';
import type { Carrier, Id, Room } from '../records/common.ts';
import type { Expectation } from '../records/expectation.ts';
import type { Skill } from '../records/people.ts';
import type { ReadingDef } from '../records/readings.ts';
import type { Gate } from '../records/rights.ts';
import type { AnswerDef } from '../records/question.ts';
import type { Refusal } from '../records/refusal.ts';
import type { Op } from '../records/shop.ts';
import type { Step, StepKindCode } from '../records/step.ts';
import type { PlannedCoat } from '../shell/coats-by-plan.ts';
import type { Instant } from '../units/instant.ts';
import type { Text } from '../units/words.ts';
import type { ShopIndex } from './shop-index.ts';

/** Makes ids; the caller decides how, so that core stays without chance and clock. */
export type NewId = () => Id;

/** How an outcome leaves the step. */
export type Effect = 'done' | 'again' | 'lost' | 'skipped';

export interface OutcomeDef {
  readonly code: string;
  readonly label: string;
  readonly effect: Effect;
  /** Steps that grow after this one, in order, on the same carrier. */
  readonly inserts?: readonly StepKindCode[];
  /** Asks why, in words. */
  readonly why?: boolean;
}

/** What a person says when a step is done: when, who, how it came out, and the readings. */
export interface Closing {
  readonly startedAt: Instant | null;
  readonly endedAt: Instant;
  readonly by: readonly Id[];
  readonly recordedBy: Id | null;
  readonly outcome: string;
  readonly readings: Readonly<Record<string, unknown>>;
  /** What was typed in other units, by the reading's key. */
  readonly typed?: Readonly<Record<string, string>>;
  /** Readings that were not read off but taken over from what was planned or said last. */
  readonly taken?: readonly string[];
  readonly note: string;
  readonly flags: readonly string[];
}

/** What a kind judges: a closing, or a beginning that has no end and no outcome yet. */
export interface Judged {
  readonly startedAt: Instant;
  readonly endedAt: Instant | null;
  readonly outcome: string | null;
  readonly readings: Readonly<Record<string, unknown>>;
}

/** What must pass between a step and what follows it, in elapsed minutes. */
export interface Waits {
  readonly min: number;
  readonly max: number | null;
  /** What makes it as long as it is, where it is not a fixed time. */
  readonly why?: Text;
}

/** What a step is done to, in plain figures that its kind's times may depend on; null where nobody knows. */
export interface Site {
  readonly sequence: number;
  /** The last coat, which seals. */
  readonly isSeal: boolean;
  /** How long its coat dries by the tree's own plan, minutes; null where that says nothing of it. */
  readonly coatMinutes: number | null;
  /** A deep, narrow hollow is on the tree. */
  readonly deep: boolean;
  /** Metal in the tree: poured, else as planned in its heat, kg. */
  readonly metalKg: number;
  /** It stands in a block of refractory plaster, which holds its heat. */
  readonly isBlock: boolean;
}

/** The size of what a step works on, for its hours. */
export interface Size {
  readonly seamM: number | null;
  /** Of the piece, or of the sections that a mould takes. */
  readonly areaCm2: number | null;
  readonly weightKg: number | null;
  /** Casts on the tree, and the metal that is in it, kg. */
  readonly casts: number;
  readonly metalKg: number | null;
}

/** A step done, and what it did. */
export interface Closed {
  readonly index: ShopIndex;
  readonly step: Step;
  readonly closing: Closing;
  readonly outcome: OutcomeDef;
  readonly newId: NewId;
}

/** A question that waits for a person, raised by a step on a cast's way, and how it can be decided. */
export interface Asking {
  readonly text: Text;
  readonly urgent: boolean;
  readonly answers: readonly AnswerDef[];
}

/** How far what it brings through at the first try is known: a room of the yield table. */
export type YieldRoom = 'wax' | 'shell' | 'burnout' | 'pour' | 'chasing';

/**
 * One kind of step, as its room knows it: what it is as properties, which the mechanics of the route, the planner and the
 * screens read, and what refuses it, follows from it and is shown of it, as functions. Nobody outside the room asks for a
 * kind by its code.
 */
export interface StepKind {
  readonly code: StepKindCode;
  readonly room: Room;
  /** `Chase and weigh wax`. */
  readonly name: string;
  readonly carrier: Carrier;
  /** A decision that somebody answers for by name: not everybody in its room records it. */
  readonly answeredFor?: Gate;
  /** Recorded with a whole kiln load or heat, not by itself. */
  readonly through?: 'load' | 'heat';
  /** Hands-on minutes. */
  readonly minutes: number;
  /** Done only by those who can, where the shop has said who that is. */
  readonly skill?: Skill;
  readonly spans: 'pausing' | 'unbroken' | 'through';
  /** Elapsed minutes before what follows may begin. */
  readonly minWait: number;
  readonly maxWait: number | null;
  /** An expected wait is for planning only: nobody is refused because an answer came sooner. */
  readonly waitIs: 'physical' | 'expected';
  /** How long after what is before it, instead of that one's own waits. */
  readonly comesAfter?: Waits;
  /** Done beside the way: nothing waits for it, and once what comes after it is done nobody is asked for it any more. */
  readonly aside?: true;
  readonly outcomes: readonly OutcomeDef[];
  readonly readings: readonly ReadingDef[];
  readonly readingsVersion: number;
  /** Definitions that records of older versions were made with. */
  readonly earlierReadings?: Readonly<Record<number, readonly ReadingDef[]>>;
  readonly cautions: readonly CautionCode[];

  /** What a person may put in by hand, on which carriers. */
  readonly insertable?: readonly Carrier[];
  /** Done in the room of the step it follows. */
  readonly visits?: true;
  /** Done by those who pour: hands of the metal shop. */
  readonly byCrew?: true;
  /** Begins a cast's wax: from then on it is wax, and its piece in work. */
  readonly beginsWax?: true;
  /** Fills a mould, which is in use from its begin to its end. */
  readonly usesMould?: true;
  /** Joins casts to a tree. */
  readonly joinsTree?: true;
  /** One of the layers of a shell; numbered by their sequence. */
  readonly coat?: true;
  /** Leaves its carrier wet, always or by its readings. */
  readonly wets?: (readings: Readonly<Record<string, unknown>>) => boolean;
  /** Clears what is wet. */
  readonly dries?: true;
  /** Which trees may share its load. */
  readonly kiln?: 'dewax' | 'shell' | 'block';
  /** Its maximum wait is counted to the pour, whatever stands between. */
  readonly freshForPour?: true;
  /** What a pour before it is done is refused by, and in which words; by the order of steps where absent. */
  readonly gate?: { readonly rule: string; readonly says: (label: string) => Text };
  /** Ends the tree: from here its casts go their own ways. */
  readonly freesCasts?: true;
  /** Joins a section to the piece. */
  readonly joinsSection?: true;
  /** Is done over when a section was joined anew. */
  readonly afterJoining?: true;
  /** Every line of the ledger must be closed before it: what was cut out is back, or stays inside on purpose. */
  readonly ledgerClosed?: true;
  /** A wax approval: holds casts back from being joined to a tree. */
  readonly approvesWax?: true;
  /** Judges a casting: from then on its defects are known. */
  readonly inspects?: true;
  /** Its readings name what something weighs. */
  readonly weighs?: 'wax' | 'cast' | 'piece';
  /** Changes what it is done to: a weight from before no longer counts. */
  readonly alters?: true;
  /** What has to be lifted while it is done: wax and shell, or shell and metal. */
  readonly lifts?: 'dipping' | 'poured';
  /** Losses happen here: which room's first-pass yield says how often. */
  readonly risk?: YieldRoom;

  /** Its name on this carrier; `name` where absent. */
  readonly nameOf?: (index: ShopIndex, step: Step) => string;
  /** Hands-on minutes by the size of the work; undefined where that is not known. */
  readonly effort?: (size: Size) => number | undefined;
  /** A block is mixed and cast round the tree. */
  readonly mixes?: true;
  /** Its minimum wait is what it takes to dry in the reference's air: it goes by the air that it hangs in. */
  readonly driesInAir?: true;
  /** Waits by what it is done to. */
  readonly waits?: (usual: Waits, site: Site) => Waits;
  /** What holds it, beside steps that are not done. */
  readonly held?: (index: ShopIndex, step: Step) => string[];
  /** What refuses it, beside order and waits. */
  readonly judge?: (index: ShopIndex, step: Step, said: Judged) => Refusal[];
  /** What its readings are likely to be, by what is known of it: outside of that somebody is asked once. */
  readonly expects?: (index: ShopIndex, step: Step) => readonly Expectation[];
  /** What is wrong with what is said, field by field: an outcome that its own readings contradict. */
  readonly wrong?: (said: Pick<Judged, 'outcome' | 'readings'>) => Readonly<Record<string, Text>>;
  /** Steps that grow after it beside those of its outcome. */
  readonly grows?: (closed: Closed) => readonly StepKindCode[];
  /** What its begin does to records. */
  readonly begin?: (index: ShopIndex, step: Step, said: Judged, newId: NewId) => Op[];
  /** What follows from it: its consequences on records. */
  readonly close?: (closed: Closed) => Op[];
  /** What putting it in does to its carrier. */
  readonly inserted?: (carrierId: Id) => Op[];
  /** What records hold of its readings: rows are the truth, the step keeps only what has no row. */
  readonly facts?: (index: ShopIndex, step: Step) => Readonly<Record<string, unknown>>;
  /** The question it raises as it stands, about a cast that has not been inspected or lost since. */
  readonly asks?: (step: Step, cast: { readonly inspected: boolean }) => Asking | undefined;
  /** Of several of its kind on one day, which are done first: those of the least. Of equal ones the lighter trees are. */
  readonly dayOrder?: (step: Pick<Step, 'sequence'>) => number;
  /** What a form starts with, by where the step stands. */
  readonly starts?: (
    step: Pick<Step, 'sequence'>,
    last: boolean,
    coat?: PlannedCoat,
  ) => Readonly<Record<string, unknown>>;
  /** What a reader should see beside it, once it is recorded. */
  readonly notes?: (index: ShopIndex, step: Step, said: Judged) => readonly string[];
}

type Given = Pick<StepKind, 'code' | 'room' | 'name' | 'carrier' | 'minutes'> & Partial<StepKind>;

/** A kind of step from what its room says of it; the rest is usual. */
export const stepKind = (given: Given): StepKind => ({
  spans: 'pausing',
  minWait: 0,
  maxWait: null,
  waitIs: 'physical',
  outcomes: [done()],
  readings: [],
  readingsVersion: 1,
  cautions: [],
  ...given,
});

export const done = (label = 'Done', code = 'done'): OutcomeDef => ({ code, label, effect: 'done' });
export const lost = (label = 'Lost', code = 'lost'): OutcomeDef => ({ code, label, effect: 'lost', why: true });
export const again = (label: string, code = 'again', inserts?: readonly StepKindCode[]): OutcomeDef => ({
  code,
  label,
  effect: 'again',
  why: true,
  ...(inserts ? { inserts } : {}),
});

/** `skipped` may be said of any step, by a person who may override, with a reason. */
export const SKIPPED: OutcomeDef = { code: 'skipped', label: 'Skipped', effect: 'skipped', why: true };

/** The outcome of a code at a kind of step, or undefined. */
export const outcomeOf = (kind: StepKind, code: string): OutcomeDef | undefined =>
  code === SKIPPED.code ? SKIPPED : kind.outcomes.find((candidate) => candidate.code === code);

/** The definitions that a record of a version was made with. */
export const readingsAt = (kind: StepKind, version: number): readonly ReadingDef[] =>
  version === kind.readingsVersion ? kind.readings : (kind.earlierReadings?.[version] ?? kind.readings);

/** The readings that are asked for at an outcome, by the number of the step among those of its kind. */
export const readingsAsked = (kind: StepKind, outcome: string, sequence = 1): readonly ReadingDef[] =>
  outcome === SKIPPED.code
    ? []
    : kind.readings.filter(
        (def) => (!def.outcomes || def.outcomes.includes(outcome)) && (!def.firstOnly || sequence <= 1),
      );
