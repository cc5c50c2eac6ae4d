// The plan format `kalvet-plan/1` and the schedule format `kalvet-schedule/1`, as types. Times are whole minutes since `start`.

/** No time in a problem or a schedule may pass this minute (20 years). */
export const LAST_MINUTE = 10_500_000;

/** Units are added up and compared with this tolerance. */
export const UNITS_TOLERANCE = 1e-9;

/** Hours of a weekday: 1 is Monday, 7 Sunday; `from` < `to`, "24:00" only as `to`. */
export interface WeeklyWindow {
  readonly day: number;
  readonly from: string;
  readonly to: string;
}

/** Hours of one date, beside the weekly ones and also on a closed day. */
export interface ExtraWindow {
  readonly date: string;
  readonly from: string;
  readonly to: string;
}

export interface PlanCalendar {
  readonly id: string;
  readonly always?: boolean;
  readonly weekly?: readonly WeeklyWindow[];
  readonly closed?: readonly string[];
  readonly extra?: readonly ExtraWindow[];
}

/** What a load holds once, however much is in it: from `before` minutes ahead of its start to its end. */
export interface LoadNeed {
  readonly resource: string;
  readonly units?: number;
  readonly before?: number;
}

/** A resource that works in loads: what is in one load starts and ends together. */
export interface Batch {
  readonly machines?: number;
  readonly maxTasks?: number;
  /** Minutes between two loads on one machine. */
  readonly setup?: number;
  readonly loadCost?: number;
  /** Minutes of setup for each unit in the load that follows: melting a charge. */
  readonly setupPerUnit?: number;
  /** Minutes of setup where the load's key differs from that of the one before it on the machine: another alloy. */
  readonly change?: number;
  /** Minutes of setup where the machine is cold: no load before it, or its end longer ago than `coldAfter` minutes. */
  readonly firstSetup?: number;
  readonly coldAfter?: number;
  /** A calendar in which every minute of the setup must be open: somebody watches the fire. */
  readonly setupIn?: string;
  readonly needs?: readonly LoadNeed[];
}

export interface PlanResource {
  readonly id: string;
  readonly capacity: number;
  /** Always open where absent. */
  readonly calendar?: string;
  readonly batch?: Batch;
}

export interface PlanJob {
  readonly id: string;
  readonly due?: number;
  readonly release?: number;
  readonly weight?: number;
}

/** How a duration meets the calendars: stops over closed hours, fits into open ones, or runs on through closed ones. */
export const SPANS = ['pausing', 'unbroken', 'through'] as const;
export type Spans = (typeof SPANS)[number];

export interface Need {
  readonly resource: string;
  readonly units?: number;
  /** Tasks share a load only with their like. */
  readonly key?: string;
}

export interface PlanTask {
  readonly id: string;
  readonly job: string;
  readonly duration: number;
  readonly spans: Spans;
  readonly needs: readonly Need[];
  readonly earliest?: number;
  /** It has already started or somebody pinned it; may be negative. */
  readonly fixedStart?: number;
  /** The room it is done in: its usual spread and losses count where the task names none. For promises only. */
  readonly room?: string;
  /** By which share its duration usually differs, one standard deviation. For promises only. */
  readonly spread?: number;
  /** In what share of all cases what it works on is lost by it, and its chain begins anew. For promises only. */
  readonly loss?: number;
  /** Minutes that were spent on it before the plan, and would be again were it lost. For promises only. */
  readonly redo?: number;
}

/** `start(to) ≥ end(from) + minLag` and `start(to) ≤ end(from) + maxLag`; lags are elapsed minutes. */
export interface PlanLink {
  readonly from: string;
  readonly to: string;
  readonly minLag?: number;
  readonly maxLag?: number;
}

export interface PlanObjective {
  readonly tardiness?: number;
  readonly flow?: number;
  readonly loads?: number;
  readonly makespan?: number;
}

/** The schedule that people were told before. */
export interface PlanPrevious {
  readonly starts: readonly { readonly id: string; readonly start: number; readonly load?: string }[];
  /** What a minute's move costs of a task that was to start now; half as much for each week further ahead. */
  readonly weight?: number;
  /** Tasks that were to start before this minute stay, if they can. */
  readonly frozen?: number;
}

export interface PlanProblem {
  readonly format: 'kalvet-plan/1';
  /** Local wall-clock, 00:00 of a day: `2027-03-01T00:00:00`. */
  readonly start: string;
  readonly calendars: readonly PlanCalendar[];
  readonly resources: readonly PlanResource[];
  readonly jobs: readonly PlanJob[];
  readonly tasks: readonly PlanTask[];
  readonly links: readonly PlanLink[];
  readonly objective: PlanObjective;
  readonly previous?: PlanPrevious;
}

export type PlanStatus = 'feasible' | 'infeasible' | 'not-found' | 'invalid';

/** What is wrong, for a person: where in the document, and which tasks, links (`from→to`), resources or calendars. */
export interface PlanMessage {
  readonly path?: string;
  readonly ids?: readonly string[];
  readonly text: string;
}

export interface ScheduledTask {
  readonly id: string;
  readonly start: number;
  readonly end: number;
  /** Only, and always, where the task needs a batch resource. */
  readonly load?: string;
}

/** The parts before their factors, and the whole. */
export interface ObjectiveValue {
  readonly value: number;
  readonly tardiness: number;
  readonly flow: number;
  readonly loads: number;
  readonly makespan: number;
}

export interface Schedule {
  readonly format: 'kalvet-schedule/1';
  readonly status: PlanStatus;
  readonly tasks: readonly ScheduledTask[];
  readonly objective?: ObjectiveValue;
  readonly lowerBound?: { readonly value: number; readonly why: string };
  /** Beside the objective, where there was a schedule before: how many tasks start at another minute, and what that costs. */
  readonly moved?: { readonly tasks: number; readonly cost: number };
  readonly messages: readonly PlanMessage[];
}

/** How a link is named in messages. */
export const linkName = (link: Pick<PlanLink, 'from' | 'to'>): string => `${link.from}→${link.to}`;

/** A schedule that is none, and why. */
export const noSchedule = (status: Exclude<PlanStatus, 'feasible'>, messages: readonly PlanMessage[]): Schedule => ({
  format: 'kalvet-schedule/1',
  status,
  tasks: [],
  messages,
});
