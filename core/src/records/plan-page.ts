import type { Day, Instant } from '../units/instant.ts';
import type { Id, Room } from './common.ts';
import type { Likely, PlannedLoad, PlanStand } from './plan.ts';

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
  /** Spans in a room, the earliest first: `[room, from, to]`. */
  readonly spans: readonly (readonly [room: Room, startsAt: Instant, endsAt: Instant])[];
}

export interface PlanAnswer {
  readonly change: number;
  readonly now: Instant;
  readonly today: Day;
  readonly plan: PlanStand;
  readonly rows: readonly PlanRow[];
  readonly loads: readonly PlannedLoad[];
  /** Days on which metal can be poured, as far as the plan reaches. */
  readonly pourDays: readonly Day[];
}
