import type { Text } from '../units/words.ts';
import type { Figure } from '../units/figure.ts';
import type { Day, Instant } from '../units/instant.ts';
import type { FiringState } from './burnout.ts';
import type { Id } from './common.ts';
import type { PastHeat } from './fire-records.ts';
import type { PlannedLoad, PlanStand } from './plan.ts';
import type { CrewPlace, HeatReading, PourCheck, Pouring, PouringOutcome, Signs, TreeReady } from './pour.ts';
import type { Question } from './question.ts';
import type { MetalNeed } from './stores.ts';
import type { ChargeGiven } from './pour-writes.ts';
import type { TreeLine } from './sprue-page.ts';

export interface HeatLine {
  readonly id: Id;
  readonly number: number;
  readonly alloyId: string;
  readonly state: FiringState;
  readonly plannedFor: Instant | null;
  readonly usableKg: number;
  /** What goes into the crucible, kg. */
  readonly chargeKg: number;
  readonly trees: readonly {
    readonly treeId: Id;
    readonly label: string;
    readonly plannedKg: number;
    readonly outcome: string | null;
  }[];
}

export interface HeatAnswer {
  readonly id: Id;
  readonly number: number;
  readonly alloyId: string;
  readonly state: FiringState;
  readonly plannedFor: Instant | null;
  readonly holdsKg: number;
  readonly usableKg: number;
  /** As it was planned with; today's settings may be others. */
  readonly meltLoss: number;
  readonly pigReserveKg: number;
  readonly leadId: Id | null;
  readonly crew: readonly CrewPlace[] | null;
  readonly signs: Signs | null;
  readonly coverConfirmedById: Id | null;
  readonly checks: readonly PourCheck[] | null;
  readonly crucibleId: Id | null;
  readonly litAt: Instant | null;
  readonly energyKwh: number | null;
  readonly meterFrom: number | null;
  readonly startedAt: Instant | null;
  readonly pigKg: number | null;
  readonly reason: string | null;
  readonly version: number;
  readonly pourings: readonly {
    readonly id: Id;
    readonly treeId: Id;
    readonly stepId: Id | null;
    readonly label: string;
    readonly order: number;
    readonly plannedKg: number;
    readonly plannedSource: Pouring['plannedSource'];
    readonly plannedPlusMinusKg: number | null;
    /** Still waits for something before it can be poured. */
    readonly waits: readonly string[];
    readonly pouredKg: number | null;
    readonly outcome: PouringOutcome | null;
    readonly place: number | null;
    readonly outAt: Instant | null;
    readonly startedAt: Instant | null;
    readonly seconds: number | null;
    readonly metalC: number | null;
  }[];
  readonly chargeLines: readonly ChargeGiven[];
  readonly charge: Figure;
  readonly freeKg: number;
  readonly returnsKg: number;
  readonly ingotKg: number;
  readonly warnings: readonly Text[];
}

/** From and to, °C. */
export type Range = readonly [low: number, high: number];

/** How a mould is to be poured: metal at the cup, the mould itself, and how fast. */
export interface PourWindow {
  readonly metalC: Range;
  /** What is aimed at in it: the metal at the cup. */
  readonly cup: Figure;
  readonly mouldC: Range;
  readonly pace: 'fast' | 'steady' | 'slow';
  readonly inWords: Text;
}

/** A tree that could be poured, with its window. */
export interface PourTreeView extends TreeLine {
  readonly window: PourWindow;
  readonly wet: boolean;
}

/** Between which seconds after the kiln a shell is in its window. */
export interface KilnOut {
  readonly wallMm: number;
  readonly fromC: number;
  /** What it loses of what a bare one does: 1 bare. */
  readonly share: number;
  readonly fromS: number;
  readonly toS: number;
}

/** A tree that was poured and still hangs in its shell: somebody frees a corner and looks. */
export interface LookAt {
  readonly treeId: Id;
  readonly label: string;
  readonly stepId: Id;
  readonly pouredAt: Instant;
  /** When it has frozen enough to be looked at. */
  readonly from: Instant;
}

/** A tree that would go into a heat, kg of metal. */
export interface HeatFill {
  readonly treeId: Id;
  readonly label: string;
  readonly kg: number;
}

/** A tree that is on its way to the pour. */
export interface ComingTree {
  readonly treeId: Id;
  readonly label: string;
  readonly stepId: Id;
  readonly alloyId: string;
  readonly pourKg: number | null;
  readonly ready: TreeReady;
}

/** What was worked out for a heat: when it is lit, how hot, in which order, and how each tree fills. */
export interface HeatFigures {
  readonly melt: Figure;
  readonly lightAt: Instant | null;
  readonly windows: Readonly<Record<Id, PourWindow>>;
  /** How each tree fills against how its thinnest wall freezes. */
  readonly fillings: Readonly<Record<Id, Filling>>;
  /** When each shell is as hot as it is to be, after it left the kiln. */
  readonly kilnOut: Readonly<Record<Id, KilnOut>>;
  /** What the furnace is brought to for its trees in their order; null where all are poured. */
  readonly furnace: Figure | null;
  /** A better order of what is still to be poured, and by how many kelvin the furnace can be cooler then; null where there is none. */
  readonly order: {
    readonly treeIds: readonly Id[];
    readonly labels: readonly string[];
    readonly coolerK: number;
  } | null;
}

/** Filling and freezing of a tree's thinnest wall. */
export interface Filling {
  readonly seconds: Figure;
  readonly freezes: Figure;
  /** Filling ÷ freezing, per cent. */
  readonly share: Figure;
  readonly stands: 'fills' | 'tight' | 'freezes first';
}

export type HeatView = HeatAnswer & HeatFigures;

/** A place of the pit, mm from its corner at the furnace, and what stands in it. */
export interface PitPlaceView {
  readonly number: number;
  readonly xMm: number;
  readonly yMm: number;
  readonly treeId: Id | null;
  readonly label: string;
  /** Set for a heat of the day, poured and not knocked out, or set for another day. */
  readonly stands: 'free' | 'set' | 'poured' | 'other';
  /** Its turn in its heat. */
  readonly order: number | null;
}

/** A stretch of a pour day. */
export interface PourStretch {
  readonly heatId: Id;
  readonly part: 'preheat' | 'lining' | 'melt' | 'skim' | 'pour' | 'pig' | 'look';
  readonly from: Instant;
  readonly to: Instant;
  readonly treeId: Id | null;
  readonly label: string;
}

/** A pour day on one axis, with its pit. */
export interface PourDayAnswer {
  readonly change: number;
  readonly now: Instant;
  readonly day: Day;
  /** Days with heats, and the coming pour days. */
  readonly days: readonly Day[];
  readonly heats: readonly HeatView[];
  /** Heats that the plan makes on this day of trees that stand in none yet. */
  readonly planned: readonly PlannedLoad[];
  readonly stretches: readonly PourStretch[];
  /** Shells that find no place in the kiln at their time. */
  readonly noKiln: readonly Id[];
  readonly pit: readonly PitPlaceView[];
  /** Where each tree would be set, in pouring order. */
  readonly wouldSet: Readonly<Record<Id, number>>;
  /** How far the crucible goes for each heat, m. */
  readonly wayM: Readonly<Record<Id, number>>;
}

/** A heat while it is poured. */
export interface LiveHeat {
  readonly change: number;
  readonly now: Instant;
  readonly heat: HeatView;
  readonly readings: readonly HeatReading[];
  /** When each poured tree has cooled for its knock-out. */
  readonly coolUntil: Readonly<Record<Id, Instant>>;
  /** It is a rehearsal: nothing of it is in earnest. */
  readonly practice: boolean;
  /** Pieces of trees that came to grief, with when they are out now and were thought to be. */
  readonly moved: readonly {
    readonly pieceId: Id;
    readonly label: string;
    readonly from: Instant | null;
    readonly to: Instant | null;
  }[];
  /** Events of this heat's last minutes that can be taken back, by the tree. */
  readonly undo: readonly {
    readonly number: number;
    readonly treeId: Id | null;
    readonly at: Instant;
    readonly text: Text;
  }[];
}

export interface PourAnswer {
  readonly change: number;
  readonly now: Instant;
  readonly plan: PlanStand;
  readonly heats: readonly HeatView[];
  /** Trees whose next step is the pour and that stand in no heat. */
  readonly waiting: readonly PourTreeView[];
  /** Heats that cannot be kept, with what would fill them. */
  readonly asks: readonly Question[];
  /** From when the trees that stand in heats can be poured. */
  readonly ready: Readonly<Record<Id, TreeReady>>;
  /** What would fill each heat best that has room, by the heat; where nothing fits none. */
  readonly fills: Readonly<Record<Id, readonly HeatFill[]>>;
  /** Trees that still have something before their pour and stand in no heat, what is ready sooner first. */
  readonly coming: readonly ComingTree[];
  /** What was poured and not looked at yet, the first poured first. */
  readonly looks: readonly LookAt[];
  /** Heats that are over, the newest first. */
  readonly past: readonly PastHeat[];
  readonly pourDays: readonly Day[];
  /** The first heat of each alloy for which metal is missing. */
  readonly shorts: readonly MetalNeed[];
  /** Heats that the plan makes of trees that stand in none yet, with the furnace's hour. */
  readonly proposed: readonly (PlannedLoad & { readonly melt: Figure; readonly lightAt: Instant })[];
}
