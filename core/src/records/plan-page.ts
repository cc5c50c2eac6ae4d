import type { Day, Instant } from '../units/instant.ts';
import type { Text } from '../units/words.ts';
import type { Id, Room } from './common.ts';
import type { HandsWeeks, Likely, PlannedLoad, PlanStand } from './plan.ts';
import type { Question } from './question.ts';

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

/** A piece's row on the plan's drawing. */
export interface PlanRow {
  readonly pieceId: Id;
  readonly workId: Id;
  readonly title: string;
  readonly mark: string;
  readonly state: string;
  readonly dueDate: Day | null;
  readonly finishesAt: Instant | null;
  readonly likely: Likely | null;
  readonly lateDays: number;
  /** Where the last plan of the day before had it, if on another day; and what happened to it since, where something did. */
  readonly moved: { readonly from: Instant; readonly because: Text | null } | null;
  /** Spans in a room, the earliest first: `[room, from, to]`. */
  readonly spans: readonly (readonly [room: Room, startsAt: Instant, endsAt: Instant])[];
}

export interface PlanAnswer {
  /** When the plan was made that moves are told against: the last one of a day before; null where there is none. */
  readonly movedSince: Instant | null;
  readonly change: number;
  readonly now: Instant;
  readonly today: Day;
  readonly plan: PlanStand;
  readonly rows: readonly PlanRow[];
  readonly loads: readonly PlannedLoad[];
  /** Days on which metal can be poured, as far as the plan reaches. */
  /** Heats that cannot be kept, with what would fill them. */
  readonly asks: readonly Question[];
  readonly pourDays: readonly Day[];
  /** Hands of each room, and how much work there is for them week by week. */
  readonly hands: readonly (HandsWeeks & { readonly name: string; readonly room: Room; readonly count: number })[];
}
