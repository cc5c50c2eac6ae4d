// What the rooms' own screens ask for: coats, pours, a work with its moulds, and what a loss would do to the dates.
import type { Figure } from '../units/figure.ts';
import type { Day, Instant } from '../units/instant.ts';
import type { PlanLoad, PlanStand } from './api-plan.ts';
import type { HeatAnswer, HistoryLine, TreeLine } from './api.ts';
import type { Id } from './common.ts';
import type { MouldState } from './mould.ts';
import type { OpenItemEnd, OpenItemKind } from './open-item.ts';
import type { ApprovalRule, Method, PieceState } from './work.ts';

/** From and to, °C. */
export type Range = readonly [low: number, high: number];

/** How a mould is to be poured: metal at the cup, the mould itself, and how fast. */
export interface PourWindow {
  readonly metalC: Range;
  readonly mouldC: Range;
  readonly pace: 'fast' | 'steady' | 'slow';
  readonly inWords: string;
}

/** A line of a cast's ledger as the screens show it. */
export interface OpenItemView {
  readonly id: Id;
  readonly castId: Id;
  readonly cast: string;
  readonly kind: OpenItemKind;
  readonly what: string;
  readonly openedAt: Instant;
  readonly closedAt: Instant | null;
  readonly closedHow: OpenItemEnd | null;
  readonly version: number;
}

export interface AddOpenItem {
  readonly id: Id;
  readonly castId: Id;
  readonly kind: OpenItemKind;
  readonly what: string;
}

export interface CloseOpenItem {
  readonly version: number;
  readonly how: OpenItemEnd;
  readonly note: string;
}

/** A coat of a tree on the ledger. */
export interface CoatView {
  readonly stepId: Id;
  readonly version: number;
  readonly sequence: number;
  readonly name: string;
  readonly state: 'done' | 'next' | 'later';
  readonly at: Instant | null;
  readonly by: readonly string[];
  readonly readings: string;
  readonly flags: readonly string[];
}

export interface CoatRow {
  readonly treeId: Id;
  readonly label: string;
  readonly pieceIds: readonly Id[];
  readonly readyAt: Instant | null;
  readonly tooOldAt: Instant | null;
  readonly waits: readonly string[];
  readonly plannedStart: Instant | null;
  readonly coats: readonly CoatView[];
  /** Wax and shell, over the lift limit or not. */
  readonly lift: { readonly weight: Figure; readonly tooHeavy: boolean; readonly inWords: string } | null;
}

export interface CoatsAnswer {
  readonly change: number;
  readonly now: Instant;
  readonly plan: PlanStand;
  readonly rows: readonly CoatRow[];
}

/** A tree that could be poured, with its window. */
export interface PourTreeView extends TreeLine {
  readonly window: PourWindow;
  readonly wet: boolean;
}

export interface PourAnswer {
  readonly change: number;
  readonly now: Instant;
  readonly plan: PlanStand;
  readonly heats: readonly (HeatAnswer & {
    readonly melt: Figure;
    readonly lightAt: Instant | null;
    readonly windows: Readonly<Record<Id, PourWindow>>;
  })[];
  /** Trees whose next step is the pour and that stand in no heat. */
  readonly waiting: readonly PourTreeView[];
  readonly pourDays: readonly Day[];
  /** Heats that the plan makes of trees that stand in none yet, with the furnace's hour. */
  readonly proposed: readonly (PlanLoad & { readonly melt: Figure; readonly lightAt: Instant })[];
}

/** A work as its page shows it. */
export interface WorkAnswer {
  readonly change: number;
  readonly now: Instant;
  readonly plan: PlanStand;
  readonly work: {
    readonly id: Id;
    readonly code: string;
    readonly title: string;
    readonly artist: string;
    readonly alloyId: string;
    readonly method: Method;
    readonly approval: ApprovalRule;
    readonly finish: string;
    readonly glyph: string;
    readonly editionSize: number;
    readonly artistProofs: number;
    readonly version: number;
  };
  readonly sections: readonly {
    readonly id: Id;
    readonly name: string;
    readonly letter: string;
    readonly wallMm: number;
    readonly metalHeightMm: number | null;
    readonly expectedWaxKg: number | null;
    readonly areaCm2: number | null;
    readonly seamM: number | null;
    readonly deep: boolean;
    readonly plannedWax: Figure | null;
    readonly plannedCast: Figure | null;
    readonly coats: number | null;
    /** Every wax weighed of this section, the newest last. */
    readonly waxes: readonly { readonly label: string; readonly kg: number; readonly at: Instant }[];
    readonly casts: readonly { readonly label: string; readonly kg: number; readonly at: Instant }[];
    readonly attempts: number;
    readonly lost: number;
    readonly version: number;
  }[];
  readonly moulds: readonly {
    readonly id: Id;
    readonly label: string;
    readonly sections: readonly string[];
    readonly state: MouldState;
    readonly lifePulls: number | null;
    readonly used: number;
    readonly owed: number;
    readonly left: number | null;
    readonly inUse: boolean;
    readonly version: number;
  }[];
  readonly pieces: readonly {
    readonly id: Id;
    readonly mark: string;
    readonly state: PieceState;
    readonly room: string;
    readonly dueDate: Day | null;
    readonly plannedFinish: Instant | null;
    readonly lateDays: number;
    readonly deliveredAt: Instant | null;
  }[];
  readonly route: readonly {
    readonly name: string;
    readonly room: string;
    readonly minutes: number;
    readonly wait: string;
  }[];
  readonly waxBand: number;
  readonly history: readonly HistoryLine[];
}

/** What of a section can be changed after it was set up. */
export interface ChangeSection {
  readonly version: number;
  readonly name: string;
  readonly wallMm: number;
  readonly metalHeightMm: number | null;
  readonly expectedWaxKg: number | null;
  readonly areaCm2: number | null;
  readonly seamM: number | null;
  readonly deep: boolean;
}

export interface ChangeWork {
  readonly version: number;
  readonly title: string;
  readonly artist: string;
  readonly finish: string;
  readonly approval: ApprovalRule;
}

/** What a change would do, before it is made: steps that come and go, in words. */
export interface Consequences {
  readonly lines: readonly string[];
}

/** What an outcome would do to the dates. */
export interface WhatIf {
  readonly feasible: boolean;
  readonly pieces: readonly {
    readonly pieceId: Id;
    readonly label: string;
    readonly before: Instant | null;
    readonly after: Instant | null;
    readonly lateDays: number;
  }[];
}
