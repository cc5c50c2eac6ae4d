import { dateOf, dayNumber, weekday } from './dates.ts';
import type { PlanOptions } from './plan.ts';
import { planProblem } from './plan.ts';
import type { PlanProblem, Schedule } from './problem.ts';
import type { Chain } from './why.ts';
import { holdingChain } from './why.ts';
import { DAY_MIN } from '../units/instant.ts';

/** What the shop could do, and what the job and the shop would gain, found by planning anew. */
export interface Relief {
  readonly what:
    | { readonly kind: 'resource'; readonly resource: string }
    | { readonly kind: 'day'; readonly calendar: string; readonly date: string };
  readonly text: string;
  /** The job's finish with it, and how many minutes sooner that is than planning anew without it finds. */
  readonly finish: number;
  readonly sooner: number;
  /** By how much the whole objective falls against the same. */
  readonly objective: number;
}

export interface Why extends Chain {
  /** The finish that planning anew finds without any relief: the gains are measured against it. */
  readonly replanned: number;
  /** The greatest gain first. */
  readonly reliefs: readonly Relief[];
}

/** Reliefs that are tried at most: those first that the chain waits for longest. */
const MOST_RELIEFS = 6;

/**
 * The chain that holds a job's finish, and what each relief on it would gain: one more of a resource that it waits for,
 * another open day where it waits for hours. Each is found by planning anew from the schedule: in its order, where what
 * can move up does, and then as many trials as are asked for, the job counting double so that it takes what it is given.
 * Trials find other orders too, which would also be there without the relief: none give the purest comparison.
 * @param options how long each planning may take; asked once for the comparison and once for each relief
 * @throws RangeError where the job is not in the problem, or the schedule is not one of it
 */
export function whyLate(
  problem: PlanProblem,
  schedule: Schedule,
  jobId: string,
  options: () => PlanOptions = () => ({}),
): Why {
  const chain = holdingChain(problem, schedule, jobId);
  const from = schedule.tasks;
  // Without a promise to keep: what could be, not what need not move.
  const { previous: _, ...free } = problem;
  const favoured = {
    ...free,
    jobs: free.jobs.map((job) => (job.id === jobId ? { ...job, weight: 2 * (job.weight ?? 1) || 1 } : job)),
  };
  const valueOf = (planned: Schedule): number => {
    const { weight = 1, due, release = 0 } = problem.jobs.find(({ id }) => id === jobId)!;
    const finish = finishOf(problem, planned, jobId);
    const { flow = 0, tardiness = 0 } = problem.objective;
    const once = flow * (finish - release) + (due === undefined ? 0 : tardiness * Math.max(0, finish - due));
    return planned.objective!.value - (weight || 1) * once;
  };
  const base = planProblem(favoured, { ...options(), from });
  if (base.status !== 'feasible') return { ...chain, replanned: chain.finish, reliefs: [] };
  const reliefs = proposals(problem, chain)
    .slice(0, MOST_RELIEFS)
    .map(({ what, text, change }): Relief | undefined => {
      const changed = planProblem(change(favoured), { ...options(), from: base.tasks });
      if (changed.status !== 'feasible') return undefined;
      const finish = finishOf(problem, changed, jobId);
      return {
        what,
        text,
        finish,
        sooner: finishOf(problem, base, jobId) - finish,
        objective: valueOf(base) - valueOf(changed),
      };
    })
    .filter((relief) => relief !== undefined)
    .sort((a, b) => b.sooner - a.sooner || b.objective - a.objective);
  return { ...chain, replanned: finishOf(problem, base, jobId), reliefs };
}

function finishOf(problem: PlanProblem, schedule: Schedule, jobId: string): number {
  const own = new Set(problem.tasks.filter(({ job }) => job === jobId).map(({ id }) => id));
  return schedule.tasks.reduce((last, { id, end }) => (own.has(id) ? Math.max(last, end) : last), -Infinity);
}

interface Proposal {
  readonly what: Relief['what'];
  readonly text: string;
  readonly change: (problem: PlanProblem) => PlanProblem;
}

/** One more of each resource that the chain waits for, and a day more in each stretch of closed hours that it waits through. */
function proposals(problem: PlanProblem, { chain }: Chain): Proposal[] {
  const waits = new Map<string, { wait: number; proposal: Proposal }>();
  const add = (key: string, wait: number, proposal: () => Proposal) => {
    const known = waits.get(key);
    waits.set(key, { wait: (known?.wait ?? 0) + wait, proposal: known?.proposal ?? proposal() });
  };
  for (const { task, start, hold, waited, closed, calendars } of chain) {
    if (hold.kind === 'resource') add(`resource ${hold.resource}`, waited, () => oneMore(problem, hold.resource));
    for (const calendar of closed >= DAY_MIN / 2 ? calendars : []) {
      const date = dayToOpen(problem, calendar, start - closed, start);
      if (date === undefined) continue;
      add(`day ${calendar} ${date}`, closed, () => anotherDay(problem, calendar, date, task));
    }
  }
  return [...waits.values()].sort((a, b) => b.wait - a.wait).map(({ proposal }) => proposal);
}

function oneMore(problem: PlanProblem, resource: string): Proposal {
  const { batch, capacity } = problem.resources.find(({ id }) => id === resource)!;
  return {
    what: { kind: 'resource', resource },
    text: batch ? `one more machine for ${resource}` : `one more ${resource} (${capacity + 1} instead of ${capacity})`,
    change: (given) => ({
      ...given,
      resources: given.resources.map((each) =>
        each.id !== resource
          ? each
          : each.batch
            ? { ...each, batch: { ...each.batch, machines: (each.batch.machines ?? 1) + 1 } }
            : { ...each, capacity: each.capacity + 1 },
      ),
    }),
  };
}

/** The first working day in a stretch of minutes on which a calendar is shut all day; the first of all where there is none. */
export function dayToOpen(problem: PlanProblem, calendar: string, from: number, to: number): string | undefined {
  const found = problem.calendars.find(({ id }) => id === calendar);
  if (!found?.weekly?.length) return undefined;
  const first = dayNumber(problem.start.slice(0, 10))!;
  const shut: number[] = [];
  for (let day = Math.floor(from / DAY_MIN); day * DAY_MIN < to; day++) {
    const date = dateOf(first + day);
    const isOpen = found.weekly.some((window) => window.day === weekday(first + day)) && !found.closed?.includes(date);
    if (!isOpen && !found.extra?.some((each) => each.date === date)) shut.push(first + day);
  }
  const working = shut.find((day) => weekday(day) <= 5) ?? shut[0];
  return working === undefined ? undefined : dateOf(working);
}

/** A day more, with the hours of the calendar's first day of the week that has any. */
function anotherDay(problem: PlanProblem, calendar: string, date: string, task: string): Proposal {
  const { weekly = [] } = problem.calendars.find(({ id }) => id === calendar)!;
  const day = Math.min(...weekly.map((window) => window.day));
  const hours = weekly.filter((window) => window.day === day).map(({ from, to }) => ({ date, from, to }));
  return {
    what: { kind: 'day', calendar, date },
    text: `another day of ${calendar} on ${date}, for ${task}`,
    change: (given) => ({
      ...given,
      calendars: given.calendars.map((each) =>
        each.id === calendar ? { ...each, extra: [...(each.extra ?? []), ...hours] } : each,
      ),
    }),
  };
}
