import type { Id } from '../../records/common.ts';
import type { PlanNote } from '../../records/plan.ts';
import { carrierLabel, stepLabel } from '../../route/labels.ts';
import type { PlanOptions } from '../plan.ts';
import { planProblem } from '../plan.ts';
import type { PlanProblem, Schedule } from '../problem.ts';
import { buildProblem } from './build.ts';
import { inDayOrder } from './day-order.ts';
import { notKept, withoutMaxima } from './maxima.ts';
import { stepIdOf } from './parts.ts';
import type { PlanSnapshot } from './snapshot.ts';
import { DONE_BEFORE } from './snapshot.ts';
import { AWAY } from './staffing.ts';
import type { Undecided } from './undecided.ts';
import { REMAKE, wearNotes } from './wear.ts';

/** A shop's plan: when each open step starts and ends, in minutes, and what could not be kept. */
export interface ShopPlan {
  readonly schedule: Schedule;
  readonly problem: PlanProblem;
  readonly steps: readonly {
    readonly stepId: Id;
    readonly start: number;
    readonly end: number;
    readonly load: string | null;
    /** Starts of the further parts of work that is laid down for other work and taken up again; null where it is in one. */
    readonly parts: readonly number[] | null;
    /** Ends of all its parts but the last. */
    readonly partEnds: readonly number[] | null;
    /** The room's hands, the kiln or the furnace that it is planned on; null where it needs none. */
    readonly resourceId: Id | null;
  }[];
  readonly notes: readonly PlanNote[];
  /** What rests on decisions that nobody has taken yet. */
  readonly undecided: Undecided;
}

/** A message as people read it: steps by their names. */
export const inShopWords = (snapshot: PlanSnapshot, text: string): string =>
  text.replace(/[0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12}/g, (id) => {
    const step = snapshot.index.step.get(id);
    const resource = snapshot.resources.find((each) => each.id === id);
    const calendar = snapshot.calendars.find((each) => each.id === id);
    return step ? stepLabel(snapshot.index, step) : (resource?.name ?? calendar?.name ?? id);
  });

const MOST_TRIES = 12;

/**
 * Plans a shop as it stands. Where the problem cannot be met with all its maximum waits, those that stand in the way are
 * left out, at last all of them, and then the pins: the shop always gets a plan, also when everything is late.
 */
export function planShop(snapshot: PlanSnapshot, options: PlanOptions = {}): ShopPlan {
  const built = buildProblem(snapshot);
  const leftOut = [...built.left];
  const stepOf = (taskId: Id) => snapshot.index.step.get(stepIdOf(taskId));
  const label = (id: Id) => {
    const step = stepOf(id);
    return step ? stepLabel(snapshot.index, step) : id;
  };
  let { problem } = built;
  let schedule = planProblem(problem, options);
  for (let tries = 0; schedule.status !== 'feasible' && tries < MOST_TRIES; tries++) {
    const named = new Set(schedule.messages.flatMap(({ ids }) => ids ?? []).map((id) => id.replace('→', ' ')));
    const left = problem.links.filter(
      ({ from, to, maxLag }) => maxLag !== undefined && (tries >= MOST_TRIES / 2 || named.has(`${from} ${to}`)),
    );
    if (left.length > 0) {
      const without = withoutMaxima(problem, new Set(left.map(({ from, to }) => `${from} ${to}`)));
      problem = without.problem;
      leftOut.push(...without.left);
    } else if (tries < MOST_TRIES / 2) tries = MOST_TRIES / 2 - 1;
    else problem = unpinned(problem);
    schedule = planProblem(problem, options);
  }
  const carrier = (id: Id) => {
    const step = stepOf(id);
    return step ? carrierLabel(snapshot.index, step) : id;
  };
  const feasible = schedule.status === 'feasible';
  if (feasible) schedule = inDayOrder(snapshot, problem, schedule);
  return {
    schedule,
    problem,
    notes: [
      ...built.notes,
      ...(feasible ? notKept(leftOut, schedule, { label, carrier }) : []),
      ...(feasible ? wearNotes(snapshot, schedule, built.wear) : []),
    ],
    undecided: built.undecided,
    steps: stepsOf(schedule, resourcesOf(problem, snapshot)),
  };
}

/** What each task takes of the shop's resources: whose work it is, or which fire's. */
function resourcesOf({ tasks }: PlanProblem, { resources }: PlanSnapshot): Map<Id, Id> {
  const own = new Set(resources.map(({ id }) => id));
  const taken = tasks.map(({ id, needs }) => {
    const need = needs.find(({ resource, units = 1 }) => own.has(resource) && units > 0);
    return [id, need?.resource] as const;
  });
  return new Map(taken.flatMap(([id, resource]) => (resource === undefined ? [] : [[id, resource]])));
}

/** Steps from the begin of their first part to the end of their last. */
function stepsOf({ tasks }: Schedule, on: ReadonlyMap<Id, Id>): ShopPlan['steps'] {
  const steps = new Map<Id, ShopPlan['steps'][number]>();
  for (const { id, start, end, load } of tasks) {
    if ([DONE_BEFORE, REMAKE, AWAY].some((other) => id.startsWith(other))) continue;
    const stepId = stepIdOf(id);
    const known = steps.get(stepId);
    // The parts of a step follow one another, here as in the problem.
    steps.set(stepId, {
      stepId,
      start: known?.start ?? start,
      end,
      load: load ?? null,
      parts: known ? [...(known.parts ?? []), start] : null,
      partEnds: known ? [...(known.partEnds ?? []), known.end] : null,
      resourceId: on.get(stepId) ?? null,
    });
  }
  return [...steps.values()];
}

const unpinned = (problem: PlanProblem): PlanProblem => ({
  ...problem,
  tasks: problem.tasks.map((task) => {
    if (task.fixedStart === undefined || task.needs.length === 0) return task;
    const { fixedStart, ...rest } = task;
    return { ...rest, earliest: Math.max(0, fixedStart) };
  }),
});
