import type { Text } from '../units/words.ts';
import type { Day, Instant } from '../units/instant.ts';
import type { Id } from './common.ts';
import type { PlannedLoad, PlanStand } from './plan.ts';
import type { Question } from './question.ts';
import type { VisitLine } from './feed.ts';
import type { HeatLine } from './pour-page.ts';
import type { NextStep } from './route.ts';

/** A step on the Day sheet. */
export interface DayLine extends NextStep {
  readonly version: number;
  readonly through: 'load' | 'heat' | null;
  readonly plannedStart: Instant | null;
  readonly plannedEnd: Instant | null;
  /** The load or heat of the plan. */
  readonly load: string | null;
  readonly pieceIds: readonly Id[];
  /** Due dates or planned ends of its pieces are passed. */
  readonly late: boolean;
  /** Planned for today behind a step that is not done yet: named, but not to be ticked off. */
  readonly after: boolean;
}

/** A firing or a melt on the timetable. */
export interface FireTime {
  readonly at: Instant;
  /** `light the furnace`, `pour`, `fire the kiln`. */
  readonly what: string;
  readonly text: Text;
  readonly planned: boolean;
  /** How the hour came about. */
  readonly why: Text;
  /** A tree of it, to open. */
  readonly stepId: Id | null;
}

export interface DayAnswer {
  readonly change: number;
  readonly now: Instant;
  readonly today: Day;
  /** The day that the sheet is for: today, or the next one with work once today's is over. */
  readonly day: Day;
  /** The first instant after that day. */
  readonly dayEnd: Instant;
  readonly plan: PlanStand;
  readonly lines: readonly DayLine[];
  /** What waits for a person, a line a cause, the dearest first. */
  readonly questions: readonly Question[];
  readonly timetable: readonly FireTime[];
  readonly heats: readonly HeatLine[];
  readonly loads: readonly PlannedLoad[];
  /** Guests of that day. */
  readonly visits: readonly VisitLine[];
}
