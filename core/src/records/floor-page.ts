import type { Figure } from '../units/figure.ts';
import type { Day, Instant } from '../units/instant.ts';
import type { Id, Room } from './common.ts';
import type { Likely, PlanStand } from './plan.ts';
import type { Decision, Question } from './question.ts';
import type { HeatLine } from './pour-page.ts';
import type { NextStep } from './route.ts';
import type { TreeLine } from './sprue-page.ts';
import type { Method, PieceState, Series, Priority } from './work.ts';

/** Where a section stands, as a ring shows it. */
export interface SectionSpot {
  readonly sectionId: Id;
  readonly name: string;
  readonly castId: Id;
  readonly attempt: number;
  readonly room: Room;
  readonly recast: boolean;
  readonly begun: boolean;
  readonly nextStepId: Id | null;
}

/** What is kept ready for each piece after every write that touches it. */
export interface PieceProjection {
  readonly behind: Room;
  readonly ahead: Room;
  readonly begun: boolean;
  readonly sections: readonly SectionSpot[];
  readonly next: readonly NextStep[];
  readonly since: Instant | null;
  readonly weight: Figure | null;
  readonly decisions: readonly Decision[];
}

export interface FloorPiece extends PieceProjection {
  readonly id: Id;
  readonly workId: Id;
  readonly series: Series;
  readonly number: number;
  readonly of: number;
  readonly state: PieceState;
  readonly dueDate: Day | null;
  readonly priority: Priority;
  /** Due already, or planned to be out after its due date. */
  readonly late: boolean;
  /** By how many days, by today or by its planned date. */
  readonly lateDays: number;
  /** When its last step is planned to end; null where no plan holds it. */
  readonly plannedFinish: Instant | null;
  readonly likely: Likely | null;
  readonly holdReason: string | null;
  readonly holdUntil: Day | null;
  readonly orderId: Id | null;
  readonly version: number;
}

export interface FloorWork {
  readonly id: Id;
  readonly code: string;
  readonly title: string;
  readonly artist: string;
  readonly editionSize: number;
  readonly artistProofs: number;
  readonly sectionCount: number;
  readonly alloyId: string;
  readonly method: Method;
  readonly glyph: string;
  readonly plannedKg: Figure | null;
  readonly notBegun: readonly { readonly id: Id; readonly mark: string }[];
  readonly delivered: number;
  readonly nextDue: Day | null;
  readonly pieces: readonly FloorPiece[];
}

/** What the rail says of a room: how much is in it, how much of it can be done now, how much of it is late. */
export interface RailCount {
  readonly room: Room;
  readonly text: string;
  readonly ready: number;
  readonly late: number;
}

/** The rail, as every page has it over it. */
export interface RailAnswer {
  readonly change: number;
  readonly now: Instant;
  readonly rooms: readonly RailCount[];
}

export interface FloorAnswer {
  readonly change: number;
  readonly now: Instant;
  readonly today: Day;
  readonly plan: PlanStand;
  /** The orders that pieces on the floor stand in, for filtering. */
  readonly orders: readonly {
    readonly id: Id;
    readonly number: number;
    readonly title: string;
    readonly clientId: Id;
    readonly client: string;
  }[];
  readonly works: readonly FloorWork[];
  readonly mouldsInUse: number;
  /** What waits for a person, a line a cause, the dearest first. */
  readonly questions: readonly Question[];
  /** Trees in the shell room, the soonest ready first. */
  readonly dips: readonly TreeLine[];
  /** Trees in burnout and pour. */
  readonly fire: readonly TreeLine[];
  readonly pour: readonly TreeLine[];
  readonly heats: readonly HeatLine[];
}
