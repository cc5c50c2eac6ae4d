import type { Compiled } from '../compile.ts';
import { shareOpen } from '../openings.ts';
import type { Urgency } from './priority.ts';

/** How many jobs ahead the apparent tardiness looks. */
const LOOKS_AHEAD = [0.5, 1, 2, 4, 8] as const;

/** What jobs ask of the shop, by the job. */
interface Asks {
  /** Minutes by the clock that the resource most in demand is busy with it alone. */
  readonly bottleneck: Float64Array;
  /** The same over all resources. */
  readonly all: Float64Array;
  /** The end by which it would have to be begun. */
  readonly begin: Float64Array;
}

/**
 * Orders in which one job as a whole goes before the next: where many share a bottleneck, finishing one after another
 * makes them wait less than letting all move along together. By work, by due date, and by the apparent cost of being late
 * (A. Vepsalainen and T. Morton, "Priority rules for job shops with weighted tardiness costs", 1987).
 */
export function jobOrders(compiled: Compiled, urgency: Urgency): Float64Array[] {
  const { jobs } = compiled.problem;
  const asks = asksOf(compiled, urgency);
  const weight = (job: number) => Math.max(1e-9, jobs[job]!.weight ?? 1);
  const due = (job: number) => jobs[job]!.due ?? 1e8;
  const by = (key: (job: number) => number) => [...jobs.keys()].sort((a, b) => key(a) - key(b) || a - b);
  const orders = [
    by((job) => asks.bottleneck[job]! / weight(job)),
    by((job) => asks.all[job]! / weight(job)),
    by(due),
    by((job) => asks.begin[job]!),
    ...LOOKS_AHEAD.map((k) => byApparentTardiness(compiled, asks, k)),
  ];
  return orders.map((order) => spread(compiled, order));
}

/** Tasks in the order of the first job that waits for them; within a job by their latest start. */
export function spread(compiled: Compiled, order: readonly number[]): Float64Array {
  const { tasks, out, problem } = compiled;
  const rank = new Float64Array(problem.jobs.length);
  order.forEach((job, i) => (rank[job] = i));
  const first = new Float64Array(tasks.length);
  for (let i = compiled.order.length - 1; i >= 0; i--) {
    const { place, job } = tasks[compiled.order[i]!]!;
    // What has no weight of its own waits for those that it leads to.
    let least = (problem.jobs[job]!.weight ?? 1) > 0 ? rank[job]! : Infinity;
    for (const { to } of out[place]!) least = Math.min(least, first[to]!);
    first[place] = least === Infinity ? problem.jobs.length : least;
  }
  compiled.order.forEach((place, i) => (first[place] = first[place]! * 1e6 + i));
  return first;
}

function asksOf({ tasks, resources, problem }: Compiled, { latest, weight }: Urgency): Asks {
  const demand = new Float64Array(resources.length);
  const uses = tasks.map((task) =>
    (task.batch ? [{ ...task.batch, units: task.batch.units }] : task.takes).map(({ resource, units }) => {
      const { capacity, batch } = resources[resource]!;
      const share = Math.min(1, units / capacity) / (batch?.machines ?? 1);
      return { resource, minutes: (task.duration * share) / Math.max(0.01, shareOpen(task.open).share) };
    }),
  );
  for (const list of uses) for (const { resource, minutes } of list) demand[resource]! += minutes;
  const busiest = demand.indexOf(demand.reduce((most, each) => Math.max(most, each), 0));
  const zero = () => new Float64Array(problem.jobs.length);
  const asks = { bottleneck: zero(), all: zero(), begin: zero().fill(1e9) };
  tasks.forEach(({ job, place }) => {
    for (const { resource, minutes } of uses[place]!) {
      asks.all[job]! += minutes;
      if (resource === busiest) asks.bottleneck[job]! += minutes;
    }
    if (weight[place]! > 0) asks.begin[job] = Math.min(asks.begin[job]!, latest[place]!);
  });
  return asks;
}

function byApparentTardiness({ problem }: Compiled, asks: Asks, k: number): number[] {
  const left = new Set(problem.jobs.keys());
  const mean = Math.max(1, asks.bottleneck.reduce((sum, each) => sum + each, 0) / Math.max(1, left.size));
  const order: number[] = [];
  for (let now = 0; left.size > 0; ) {
    let best = -1;
    let most = -Infinity;
    for (const job of left) {
      const { weight = 1 } = problem.jobs[job]!;
      const work = Math.max(1, asks.bottleneck[job]!);
      const slack = Math.max(0, asks.begin[job]! - now);
      const index = Math.log(Math.max(1e-9, weight) / work) - slack / (k * mean);
      if (index <= most) continue;
      most = index;
      best = job;
    }
    left.delete(best);
    order.push(best);
    now += asks.bottleneck[best]!;
  }
  return order;
}
