// What the server answers and is asked about dates: the plan, the hours it counts with, and pins.
import type { Day, Instant } from '../units/instant.ts';
import type { Id, Room, ShopSettings } from './common.ts';
import type { Calendar, KindTimes, PinKind, PlanNote, Resource } from './planning.ts';
import type { StepKindCode } from './step-kinds.ts';

/** Where the dates on a screen come from: "dates from 10:42, 3 changes since". */
export interface PlanStand {
  readonly planId: Id | null;
  readonly madeAt: Instant | null;
  readonly changesSince: number;
  /** Being planned at this moment. */
  readonly running: boolean;
  /** Why the last try gave no plan; the one before stays in use. */
  readonly failed: string | null;
  readonly notes: readonly PlanNote[];
}

/** The dates a plan gives a piece. */
export interface PlannedPiece {
  readonly pieceId: Id;
  readonly startsAt: Instant;
  /** Its last step's end: out of the house. */
  readonly finishesAt: Instant;
  /** Days after its due date; 0 where it is in time or nothing is due. */
  readonly lateDays: number;
}

/** What the planner counts with, for the settings page. */
export interface PlanningAnswer {
  readonly settings: ShopSettings;
  readonly settingsVersion: number;
  readonly calendars: readonly Calendar[];
  readonly resources: readonly Resource[];
  readonly kinds: readonly {
    readonly kind: StepKindCode;
    readonly name: string;
    readonly room: Room;
    /** The default route's. */
    readonly usual: Required<KindTimes>;
    /** The shop's own, where it has entered any. */
    readonly own: KindTimes;
  }[];
}

/** A calendar as it is entered. */
export interface SaveCalendar {
  readonly id: Id;
  /** 0 for a new one. */
  readonly version: number;
  readonly name: string;
  readonly always: boolean;
  readonly weekly: Calendar['weekly'];
  readonly closed: readonly Day[];
  readonly extra: Calendar['extra'];
}

/** People, kilns or crucibles as they are entered. */
export interface SaveResource {
  readonly version: number;
  readonly count: number;
  readonly calendarId: Id;
  readonly setupMinutes: number;
}

/** Numbers of the shop as they are entered. */
export type ShopNumbers = Pick<
  ShopSettings,
  | 'liftLimitKg'
  | 'waxBand'
  | 'crucibleHoldsKg'
  | 'crucibleUsableKg'
  | 'kilnPlaces'
  | 'meltLoss'
  | 'returnsShare'
  | 'pigReserveKg'
  | 'crucibleKg'
  | 'tongsKg'
  | 'carriers'
  | 'furnaceKw'
  | 'furnaceEfficiency'
>;

export interface SaveNumbers extends ShopNumbers {
  readonly version: number;
}

/** The shop's own times of one kind; a key that is missing is the default route's again. */
export interface SaveTimes {
  readonly version: number;
  readonly kind: StepKindCode;
  readonly times: KindTimes;
}

export interface SavePin {
  readonly version: number;
  /** null takes the pin off. */
  readonly kind: PinKind | null;
  readonly at: Instant | null;
}

/** A step on the plan's drawing. */
export interface PlanBar {
  readonly stepId: Id;
  readonly kind: StepKindCode;
  readonly name: string;
  readonly on: string;
  readonly room: Room;
  readonly startsAt: Instant;
  readonly endsAt: Instant;
  readonly load: string | null;
  readonly pieceIds: readonly Id[];
  readonly pinKind: PinKind | null;
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
  readonly lateDays: number;
  /** Spans in a room, the earliest first: `[room, from, to]`. */
  readonly spans: readonly (readonly [room: Room, startsAt: Instant, endsAt: Instant])[];
}

/** A kiln load or heat of the plan. */
export interface PlanLoad {
  readonly name: string;
  readonly kind: 'kiln' | 'heat';
  readonly startsAt: Instant;
  readonly endsAt: Instant;
  readonly count: number;
  readonly kg: number | null;
  readonly alloyId: string | null;
  readonly treeIds: readonly Id[];
  readonly labels: readonly string[];
}

export interface PlanAnswer {
  readonly change: number;
  readonly now: Instant;
  readonly today: Day;
  readonly plan: PlanStand;
  readonly rows: readonly PlanRow[];
  readonly loads: readonly PlanLoad[];
  /** Days on which metal can be poured, as far as the plan reaches. */
  readonly pourDays: readonly Day[];
}
