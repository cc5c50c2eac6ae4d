import type { Day, Instant } from '../units/instant.ts';
import type { Id, Room } from './common.ts';
import type { StepKindCode } from './step-kinds.ts';
import { STEP_KINDS } from './step-kinds.ts';

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
  /** Minutes between two loads or heats. */
  readonly setupMinutes: number;
  readonly version: number;
}

/** A shop's own minutes and waits of a step kind; what it has not entered is the default route's. */
export interface KindTimes {
  readonly minutes?: number;
  readonly minWait?: number;
  /** null: no maximum. */
  readonly maxWait?: number | null;
}
export type RouteTimes = Readonly<Partial<Record<StepKindCode, KindTimes>>>;

/** Hands-on minutes and waits of a kind of step in this shop, in elapsed minutes. */
export function timesOf(
  kind: StepKindCode,
  own: RouteTimes | undefined,
): { readonly minutes: number; readonly minWait: number; readonly maxWait: number | null } {
  const { minutes, minWait, maxWait } = STEP_KINDS[kind];
  return { minutes, minWait, maxWait, ...own?.[kind] };
}

/** A person said when a step shall be done: not before an instant, or exactly at it. */
export const PINS = ['not before', 'at'] as const;
export type PinKind = (typeof PINS)[number];

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

/** When a step is planned. */
export interface PlannedStep {
  readonly planId: Id;
  readonly stepId: Id;
  readonly startsAt: Instant;
  readonly endsAt: Instant;
  /** Kiln load or heat of the plan, by name. */
  readonly load: string | null;
}

/** Something that a plan could not keep as it should, for a person to decide. */
export interface PlanNote {
  readonly text: string;
  readonly stepId: Id | null;
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
  resource(6, 'people', 'chasing', 'Metal shop', 2, 0),
  resource(7, 'people', 'patina', 'Patina', 1, 0),
  resource(8, 'people', 'out', 'Packing', 1, 0),
  resource(9, 'kiln', 'burnout', 'Kiln', 1, 2, 60),
  resource(10, 'crucible', 'pour', 'Crucible', 1, 3, 90),
];
