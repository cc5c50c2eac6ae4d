import type { Id } from '../../records/common.ts';
import type { Person } from '../../records/people.ts';
import type { Calendar, PlanNote, Resource, Staffing } from '../../records/plan.ts';
import type { ShopSettings } from '../../records/settings.ts';
import type { StepKindCode } from '../../records/step.ts';
import type { ShopIndex } from '../../route/shop-index.ts';
import type { Learned } from '../../shop/learned-hours.ts';
import type { Day, Instant } from '../../units/instant.ts';
import type { Undecided } from './undecided.ts';
import type { PlanLink, PlanProblem } from '../problem.ts';

/** What a plan is made from: the records as they are, and how the shop's clock counts. */
export interface PlanSnapshot {
  readonly index: ShopIndex;
  readonly settings: ShopSettings;
  /** What the shop's logged hours say; where absent, those of what is in the index. */
  readonly learned?: ReadonlyMap<StepKindCode, Learned>;
  readonly calendars: readonly Calendar[];
  readonly resources: readonly Resource[];
  /** Hands more or fewer for a while; absent where there are as many as usual. */
  readonly staffing?: readonly Staffing[];
  /** Who works here: what only some can do waits for them. Absent where it does not matter who does what. */
  readonly people?: readonly Person[];
  /** The day whose 00:00 is minute 0. */
  readonly startDay: Day;
  /** Wall-clock minutes since that 00:00, every day 1440 of them; the server knows the time zone. */
  readonly minuteOf: (instant: Instant) => number;
  readonly now: Instant;
  /** When steps start in the plan in use, in minutes; what need not move from there stays. */
  readonly previous?: readonly {
    readonly stepId: Id;
    readonly start: number;
    readonly load: string | null;
    /** Starts of the further parts of work that is laid down now and then. */
    readonly parts?: readonly number[] | null;
  }[];
}

/** A problem made from records, and what had to be left out so that there always is a plan. */
export interface BuiltPlan {
  readonly problem: PlanProblem;
  readonly notes: readonly PlanNote[];
  /** Links whose maximum wait cannot be kept from where things stand, as they were. */
  readonly left: readonly PlanLink[];
  /** Which pulls wait for a mould that is not there yet, because one wears out. */
  readonly wear: readonly PlanLink[];
  /** What is planned on the assumption that somebody decides in time. */
  readonly undecided: Undecided;
}

/** Ids of what is in a problem but no step of the shop. */
export const DONE_BEFORE = 'done:';

export const mouldResource = (mouldId: Id): string => `mould:${mouldId}`;

export const mouldJob = (mouldId: Id): string => `mould:${mouldId}`;

export const treeJob = (treeId: Id): string => `tree:${treeId}`;

/** What weighs as urgent: due at once, without a weight of its own. */
export const URGENT_JOB = 'urgent';
