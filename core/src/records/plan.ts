import type { Text } from '../units/words.ts';
import type { Day, Instant } from '../units/instant.ts';
import type { Id, Room } from './common.ts';

/** Opening hours: windows by weekday (1 Monday … 7 Sunday), closed days, and hours added on a date, closed or not. */
export interface Calendar {
  readonly id: Id;
  readonly name: string;
  readonly always: boolean;
  readonly weekly: readonly { readonly day: number; readonly from: string; readonly to: string }[];
  readonly closed: readonly Day[];
  readonly extra: readonly { readonly date: Day; readonly from: string; readonly to: string }[];
  readonly version: number;
}

export const RESOURCE_KINDS = ['people', 'kiln', 'crucible'] as const;

export type ResourceKind = (typeof RESOURCE_KINDS)[number];

/** What the planner counts: people of a room, kilns, crucibles. A mould counts by itself, as one. */
export interface Resource {
  readonly id: Id;
  readonly kind: ResourceKind;
  readonly room: Room;
  readonly name: string;
  /** People at work at once, or kilns, or crucibles. */
  readonly count: number;
  readonly calendarId: Id;
  /** Minutes between two loads; between two heats those to skim and recharge, the melting comes on top. */
  readonly setupMinutes: number;
  readonly version: number;
}

/** Hands more or fewer in a room for a while: somebody off, somebody lent. Both days are included. */
export interface Staffing {
  readonly id: Id;
  readonly resourceId: Id;
  /** Above or below what there usually is; never 0. */
  readonly more: number;
  readonly from: Day;
  readonly to: Day;
  /** Who, or why. */
  readonly why: string;
  /** Who is off, where it is somebody by name: they are missed in their skills too. */
  readonly personId?: Id | null;
  readonly version: number;
}

/** One run of the planner. */
export interface Plan {
  readonly id: Id;
  /** The change it was made from. */
  readonly basis: number;
  readonly state: 'current' | 'superseded' | 'failed';
  readonly madeAt: Instant;
  readonly tookMs: number;
  readonly notes: readonly PlanNote[];
}

/** Something that a plan could not keep as it should, for a person to decide. */
/** Why a plan could not keep something: what is pinned, too old, without hours, too heavy, a wait that is broken later, a fire that nobody can watch, a mould that wears out. */
export type NoteCause = 'pin' | 'too old' | 'hours' | 'heavy' | 'wait' | 'fire' | 'mould';

export interface PlanNote {
  readonly cause: NoteCause;
  readonly text: Text;
  readonly stepId: Id | null;
  /** Whose mould wears out. */
  readonly mouldId?: Id;
  readonly urgent: boolean;
}

const hours = (days: readonly number[], ...windows: readonly (readonly [from: string, to: string])[]) =>
  days.flatMap((day) => windows.map(([from, to]) => ({ day, from, to })));

const WEEKDAYS = [1, 2, 3, 4, 5];

const calendar = (n: number, name: string, weekly: Calendar['weekly']): Calendar => ({
  id: `00000000-0000-7000-8000-0000000000${String(n).padStart(2, '0')}`,
  name,
  always: false,
  weekly,
  closed: [],
  extra: [],
  version: 1,
});

/** What a shop starts with; all of it is the shop's to change. */
export const DEFAULT_CALENDARS: readonly Calendar[] = [
  calendar(1, 'Shop hours', hours(WEEKDAYS, ['08:00', '12:00'], ['12:30', '16:30'])),
  calendar(2, 'Shell room', [
    ...hours(WEEKDAYS, ['08:00', '12:00'], ['12:30', '17:00']),
    ...hours([6], ['09:00', '12:00']),
  ]),
  calendar(3, 'Kiln may be lit', hours([1, 2, 3, 4, 5, 6, 7], ['06:00', '20:00'])),
  calendar(4, 'Pour days', hours([4], ['09:00', '16:00'])),
];

const resource = (
  n: number,
  kind: ResourceKind,
  room: Room,
  name: string,
  count: number,
  calendarAt: number,
  setupMinutes = 0,
): Resource => ({
  id: `00000000-0000-7000-8000-0000000001${String(n).padStart(2, '0')}`,
  kind,
  room,
  name,
  count,
  calendarId: DEFAULT_CALENDARS[calendarAt]!.id,
  setupMinutes,
  version: 1,
});

export const DEFAULT_RESOURCES: readonly Resource[] = [
  resource(1, 'people', 'mould', 'Mould makers', 1, 0),
  resource(2, 'people', 'wax', 'Wax room', 2, 0),
  resource(3, 'people', 'sprue', 'Sprue bench', 1, 0),
  resource(4, 'people', 'shell', 'Shell room', 2, 1),
  resource(5, 'people', 'burnout', 'Burnout', 1, 0),
  resource(6, 'people', 'chasing', 'Metal shop', 3, 0),
  resource(7, 'people', 'patina', 'Patina', 1, 0),
  resource(8, 'people', 'out', 'Packing', 1, 0),
  resource(9, 'kiln', 'burnout', 'Kiln', 1, 2, 60),
  resource(10, 'crucible', 'pour', 'Crucible', 1, 3, 20),
];

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

/** When a piece is out with one chance in two, and with nine in ten: durations differ, and casts are lost. */
export interface Likely {
  readonly evenAt: Instant;
  readonly ninetyAt: Instant;
  /** By when what is undecided of it must be decided for that; absent where nothing is. */
  readonly assumes?: Instant;
}

/** The work that a plan has for the hands of a room, week by week, in minutes of one pair of hands. */
export interface HandsWeeks {
  readonly resourceId: Id;
  readonly weeks: readonly {
    readonly monday: Day;
    readonly planned: number;
    /** What the hands that are there can do in the room's hours. */
    readonly there: number;
  }[];
}

/** The dates a plan gives a piece. */
export interface PlannedPiece {
  readonly pieceId: Id;
  readonly startsAt: Instant;
  /** Its last step's end: out of the house. */
  readonly finishesAt: Instant;
  /** Days after its due date; 0 where it is in time or nothing is due. */
  readonly lateDays: number;
  /** Absent in plans from before it was worked out. */
  readonly likely?: Likely;
}

/** A kiln load or heat of the plan. */
export interface PlannedLoad {
  readonly name: string;
  readonly kind: 'kiln' | 'heat';
  readonly startsAt: Instant;
  readonly endsAt: Instant;
  readonly count: number;
  readonly kg: number | null;
  readonly alloyId: string | null;
  readonly treeIds: readonly Id[];
  readonly labels: readonly string[];
  /** How full it is, by places or by metal: 0 … 1. */
  readonly full: number;
  /** What it would hold: places of a kiln, kg of a charge. */
  readonly holds: number;
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

/** Hands more or fewer as they are entered; `gone` takes the entry away. */
export interface SaveStaffing extends Staffing {
  readonly gone: boolean;
}

/** People, kilns or crucibles as they are entered. */
export interface SaveResource {
  readonly id: Id;
  readonly version: number;
  readonly count: number;
  readonly calendarId: Id;
  readonly setupMinutes: number;
}
