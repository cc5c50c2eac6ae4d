import type { Compiled } from './compile.ts';
import { chainTails, familiesOf } from './families.ts';
import { objectiveOf } from './objective.ts';
import type { Openings } from './openings.ts';
import { endOf, openBetween } from './openings.ts';
import { loadsAsRoom } from './heat-bound.ts';
import { relaxed } from './relax.ts';

/** A proven bound on the objective of every schedule, and where it comes from. */
export interface Bound {
  readonly value: number;
  readonly why: string;
}

/**
 * No schedule costs less. Every task as early as links, lags and calendars alone let it; each load as full as it can be;
 * and on each resource no more jobs are through by any minute than where whatever has least left is done first, in its open
 * minutes, by all its hands at once, and may be interrupted (L. Schrage, 1968); a furnace as a room that gives no more in a stretch of
 * its hours than the loads that fit into it; sorted ends against sorted due dates, both less
 * what must still follow (C. Chu, 1992).
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
  const busy = demandOf(compiled, starts, ends);
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
  /**
   * By the job: work in units × minutes, the soonest start of any of it, its last end where nobody else wants the resource, and
   * the least time from the end of any of it to the job's.
   */
  readonly jobs: Map<number, { work: number; head: number; end: number; tail: number }>;
  /** Each task's work; what no one job waits for alone is left out. */
  readonly pieces: { head: number; work: number; tail: number }[];
}

function demandOf(compiled: Compiled, starts: Float64Array, ends: readonly number[]): Map<number, Demand> {
  const { tasks, resources } = compiled;
  const familyOf = familiesOf(compiled);
  const tails = chainTails(compiled, familyOf);
  const found = new Map<number, Demand>();
  const loads = resources.map((_, resource) => loadsAsRoom(compiled, resource));
  for (const { place, takes, batch, duration, spans, fixed } of tasks) {
    const job = familyOf[place]!;
    if (job < 0 || duration === 0 || fixed !== null) continue;
    const add = (resource: number, room: Pick<Demand, 'open' | 'capacity'>, work: number, head: number) => {
      if (!found.has(resource)) found.set(resource, { ...room, jobs: new Map(), pieces: [] });
      const demand = found.get(resource)!;
      const sum = demand.jobs.get(job) ?? { work: 0, head: Infinity, end: -Infinity, tail: Infinity };
      demand.jobs.set(job, {
        work: sum.work + work,
        head: Math.min(sum.head, head),
        end: Math.max(sum.end, ends[place]!),
        tail: Math.min(sum.tail, tails[place]!),
      });
      demand.pieces.push({ head, work, tail: tails[place]! });
    };
    for (const { resource, units } of takes) {
      // What has begun may have most of its work behind it, and what runs on through the night needs no open minutes.
      if (units === 0 || (spans === 'through' && resources[resource]!.calendar !== undefined)) continue;
      const { capacity } = resources[resource]!;
      add(resource, { open: compiled.openings[resource]!, capacity }, duration * units, starts[place]!);
    }
    const room = batch && loads[batch.resource];
    if (room && batch.units > 0) add(batch.resource, room, room.minutes * batch.units, room.soonest(starts[place]!));
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
  const lightest = Math.min(...users.map(([job]) => problem.jobs[job]!.weight ?? 1));
  const least = leastLeftFirst(
    open,
    capacity,
    users.map(([, each]) => each),
  );
  // Ends on the resource, each with what must follow the job that it is of; or of whole jobs, with what must follow any of them.
  const tail = Math.min(...users.map(([, each]) => each.tail));
  const ways = [
    {
      ends: sooner(
        least,
        users.map(([, { end }]) => end),
      ),
      after: users.map(([, each]) => each.tail),
    },
    {
      ends: sooner(
        least.map((end) => end + tail),
        users.map(([job]) => alone[job]!),
      ),
      after: users.map(() => 0),
    },
  ];
  const sum = (list: readonly number[]) => list.reduce((all, each) => all + each, 0);
  const flowAlone = sum(users.map(([job]) => alone[job]!));
  const lateAlone = sum(users.map(([job]) => Math.max(0, alone[job]! - (problem.jobs[job]!.due ?? Infinity))));
  for (const { ends, after } of ways) {
    const dues = users.map(([job], k) => (problem.jobs[job]!.due ?? Infinity) - after[k]!).sort((a, b) => a - b);
    const late = sum(ends.map((end, k) => Math.max(0, end - dues[k]!)));
    result.flow = Math.max(result.flow, lightest * (sum(ends) + sum(after) - flowAlone));
    result.tardiness = Math.max(result.tardiness, lightest * (late - lateAlone));
  }
  return result;
}

/** Sorted ends, none sooner than in either list. */
function sooner(one: readonly number[], other: readonly number[]): number[] {
  const sorted = [...other].sort((a, b) => a - b);
  return one.map((end, k) => Math.max(end === Infinity ? 0 : end, sorted[k]!));
}

/** The ends in order where whatever has least left is done first, whole and by all hands at once. */
function leastLeftFirst(
  open: Openings,
  capacity: number,
  works: readonly { readonly work: number; readonly head: number }[],
): number[] {
  const comes = works
    .map(({ work, head }) => ({ at: openBetween(open, 0, Math.max(0, head)), left: work / capacity }))
    .sort((a, b) => a.at - b.at);
  const ends: number[] = [];
  const there: number[] = [];
  let now = 0;
  for (let i = 0; i < comes.length || there.length > 0;) {
    if (there.length === 0) now = Math.max(now, comes[i]!.at);
    while (i < comes.length && comes[i]!.at <= now) there.push(comes[i++]!.left);
    there.sort((a, b) => b - a);
    const left = there.pop()!;
    const until = i < comes.length ? comes[i]!.at : Infinity;
    if (now + left > until) {
      there.push(left - (until - now));
      now = until;
      continue;
    }
    now += left;
    ends.push(endOf(open, 'pausing', 0, Math.ceil(now - 1e-9)));
  }
  return ends;
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
