import type { Compiled } from './compile.ts';
import { chainTails, familiesOf } from './families.ts';
import { objectiveOf } from './objective.ts';
import type { Openings } from './openings.ts';
import { endOf } from './openings.ts';
import { relaxed } from './relax.ts';

/** A proven bound on the objective of every schedule, and where it comes from. */
export interface Bound {
  readonly value: number;
  readonly why: string;
}

/**
 * No schedule costs less. Every task as early as links, lags and calendars alone let it; each load as full as it can be;
 * and on each resource the first k jobs that end have at least the work of the k smallest behind them, in its open
 * minutes (the work of all tasks as one that can be interrupted and parted; sorted ends against sorted due dates).
 */
export function lowerBound(compiled: Compiled): Bound {
  const { tasks, problem } = compiled;
  const { starts } = relaxed(compiled);
  const ends = tasks.map((task) => endOf(task.open, task.spans, starts[task.place]!, task.duration));
  const alone = objectiveOf(problem, ends, fewestLoads(compiled));
  const jobs = problem.jobs.map(() => -Infinity);
  tasks.forEach(({ job, place }) => (jobs[job] = Math.max(jobs[job]!, ends[place]!)));
  const { tardiness = 0, flow = 0, loads = 0, makespan = 0 } = problem.objective;
  let best: Bound = {
    value: alone.value,
    why: 'every task as early as links, waits and hours alone allow, and every load full',
  };
  const busy = demandOf(compiled, starts);
  for (const [resource, demand] of busy) {
    const more = contended(compiled, demand, jobs);
    const last = Math.max(alone.makespan, more.makespan);
    const value =
      tardiness * (alone.tardiness + more.tardiness) +
      flow * (alone.flow + more.flow) +
      loads * alone.loads +
      makespan * last;
    if (value > best.value * (1 + 1e-12))
      best = {
        value,
        why: `the work that ${compiled.resources[resource]!.id} has to do, in its hours, and every load full`,
      };
  }
  return best;
}

/** As many loads as the batch tasks need at least, by a name of their own each. */
function fewestLoads({ tasks, problem }: Compiled): Map<string, string> {
  const fewest = new Map<string, { resource: string; units: number; count: number }>();
  for (const { batch, duration } of tasks) {
    if (!batch || duration === 0) continue;
    const resource = problem.resources[batch.resource]!.id;
    const key = JSON.stringify([resource, batch.key ?? null]);
    const group = fewest.get(key) ?? { resource, units: 0, count: 0 };
    fewest.set(key, { resource, units: group.units + batch.units, count: group.count + 1 });
  }
  const loads = new Map<string, string>();
  for (const [key, { resource, units, count }] of fewest) {
    const { capacity, batch } = problem.resources.find(({ id }) => id === resource)!;
    const least = Math.max(Math.ceil(units / capacity - 1e-6), Math.ceil(count / (batch!.maxTasks ?? Infinity)));
    for (let i = 0; i < least; i++) loads.set(`${key}${i}`, resource);
  }
  return loads;
}

/** What a resource has to do for each job. */
interface Demand {
  readonly open: Openings;
  readonly capacity: number;
  /** By the job: work in units × minutes, the soonest start of any of it, and the least time from the end of any of it to the job's. */
  readonly jobs: Map<number, { work: number; head: number; tail: number }>;
  /** Each task's work; what no one job waits for alone is left out. */
  readonly pieces: { head: number; work: number; tail: number }[];
}

function demandOf(compiled: Compiled, starts: Float64Array): Map<number, Demand> {
  const { tasks, resources } = compiled;
  const familyOf = familiesOf(compiled);
  const tails = chainTails(compiled, familyOf);
  const found = new Map<number, Demand>();
  for (const { place, takes, duration, spans, fixed } of tasks) {
    const job = familyOf[place]!;
    if (job < 0 || duration === 0) continue;
    for (const { resource, units } of takes) {
      const { capacity } = resources[resource]!;
      // What has begun may have most of its work behind it, and what runs on through the night needs no open minutes.
      const counts = fixed === null && (spans !== 'through' || resources[resource]!.calendar === undefined);
      if (!counts || units === 0) continue;
      if (!found.has(resource))
        found.set(resource, {
          open: compiled.openings[resource]!,
          capacity,
          jobs: new Map(),
          pieces: [],
        });
      const demand = found.get(resource)!;
      const sum = demand.jobs.get(job) ?? { work: 0, head: Infinity, tail: Infinity };
      demand.jobs.set(job, {
        work: sum.work + duration * units,
        head: Math.min(sum.head, starts[place]!),
        tail: Math.min(sum.tail, tails[place]!),
      });
      demand.pieces.push({ head: starts[place]!, work: duration * units, tail: tails[place]! });
    }
  }
  return found;
}

/** What the queue for one resource adds to the tardiness and the flow, and the last end it leads to. */
function contended(
  { problem }: Compiled,
  { open, capacity, jobs, pieces }: Demand,
  alone: readonly number[],
): { tardiness: number; flow: number; makespan: number } {
  const users = [...jobs].filter(([job]) => (problem.jobs[job]!.weight ?? 1) > 0 && alone[job]! > -Infinity);
  const result = { tardiness: 0, flow: 0, makespan: busyUntil(open, capacity, pieces) };
  if (users.length === 0) return result;
  const head = Math.min(...users.map(([, each]) => each.head));
  const tail = Math.min(...users.map(([, each]) => each.tail));
  const works = users.map(([, { work }]) => work).sort((a, b) => a - b);
  const ownEnds = users.map(([job]) => alone[job]!).sort((a, b) => a - b);
  const lightest = Math.min(...users.map(([job]) => problem.jobs[job]!.weight ?? 1));
  const dues = users.map(([job]) => problem.jobs[job]!.due ?? Infinity).sort((a, b) => a - b);
  let [sum, late, lateAlone] = [0, 0, 0];
  works.forEach((work, k) => {
    sum += work;
    const end = endOf(open, 'pausing', head, Math.ceil(sum / capacity - 1e-9)) + tail;
    const least = Math.max(end === Infinity ? 0 : end, ownEnds[k]!);
    result.flow += lightest * (least - ownEnds[k]!);
    late += Math.max(0, least - dues[k]!);
  });
  for (const [job] of users) lateAlone += Math.max(0, alone[job]! - (problem.jobs[job]!.due ?? Infinity));
  result.tardiness = lightest * Math.max(0, late - lateAlone);
  return result;
}

/** No sooner is all done: for each soonest start, the work that cannot begin before it, and the least time after it. */
function busyUntil(open: Openings, capacity: number, pieces: Demand['pieces']): number {
  const byHead = [...pieces].sort((a, b) => b.head - a.head);
  let last = 0;
  let work = 0;
  let tail = Infinity;
  for (const piece of byHead) {
    work += piece.work;
    tail = Math.min(tail, piece.tail);
    const end = endOf(open, 'pausing', piece.head, Math.ceil(work / capacity - 1e-9)) + tail;
    if (end < Infinity) last = Math.max(last, end);
  }
  return Math.max(last, preempted(open, capacity, pieces));
}

/**
 * Where one piece of work at a time is done, always open: the last end of work that may be interrupted for what has the
 * longest way to go (J. Jackson's preemptive schedule; J. Carlier, 1982).
 */
function preempted(open: Openings, capacity: number, pieces: Demand['pieces']): number {
  if (open !== null || pieces.some(({ work }) => work < 0) || capacity !== 1) return 0;
  const waiting = [...pieces].sort((a, b) => a.head - b.head).map((piece) => ({ ...piece }));
  const there: { work: number; tail: number }[] = [];
  let now = 0;
  let last = 0;
  for (let i = 0; i < waiting.length || there.length > 0;) {
    if (there.length === 0) now = Math.max(now, waiting[i]!.head);
    while (i < waiting.length && waiting[i]!.head <= now) there.push(waiting[i++]!);
    const next = there.reduce((best, each) => (each.tail > best.tail ? each : best));
    const until = i < waiting.length ? Math.min(now + next.work, waiting[i]!.head) : now + next.work;
    next.work -= until - now;
    now = until;
    if (next.work > 0) continue;
    there.splice(there.indexOf(next), 1);
    last = Math.max(last, now + next.tail);
  }
  return last;
}
