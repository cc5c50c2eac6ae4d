import type { Compiled } from '../compile.ts';
import { familiesOf } from '../families.ts';
import { shareOpen } from '../openings.ts';
import type { Urgency } from './priority.ts';

/** How an order by apparent tardiness weighs. */
export interface Look {
  /** How far ahead it looks, as a share of the time that the bottleneck is busy. */
  readonly ahead: number;
  /** By how much jobs are taken to be later than their own work makes them, as a share of the same. */
  readonly margin: number;
  /** How much the work that a job asks counts against it, from not at all to in full. */
  readonly work: number;
}

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
export class JobOrders {
  private readonly asks: Asks;
  private readonly busy: number;

  constructor(
    private readonly compiled: Compiled,
    urgency: Urgency,
  ) {
    this.asks = asksOf(compiled, urgency);
    this.busy = this.asks.bottleneck.reduce((sum, each) => sum + each, 0);
  }

  /** By the date by which they would have to be begun. */
  bySlack(): Float64Array {
    const { begin } = this.asks;
    return spread(
      this.compiled,
      [...begin.keys()].sort((a, b) => begin[a]! - begin[b]! || a - b),
    );
  }

  /** Any look, the useful ones the likelier; or one like another. */
  look(random: () => number, like?: Look): Look {
    const about = (value: number, by: number) => value * Math.exp((random() - 0.5) * by);
    if (like)
      return {
        ahead: about(like.ahead, 1.2),
        margin: about(like.margin, 1.2),
        work: Math.min(1, Math.max(0, like.work + (random() - 0.5) * 0.4)),
      };
    return { ahead: 0.003 * 200 ** random(), margin: 0.002 * 100 ** random(), work: random() < 0.5 ? 1 : random() };
  }

  /**
   * Again and again the job that gains most for the time it takes of the bottleneck: what a minute's wait costs it in
   * flow, and in lateness the more the less slack it has left.
   */
  byApparentTardiness({ ahead, margin, work }: Look): Float64Array {
    const { objective, jobs } = this.compiled.problem;
    const { flow = 0, tardiness = 0 } = objective;
    const { bottleneck, begin } = this.asks;
    const window = Math.max(1, ahead * this.busy);
    const left = [...jobs.keys()];
    const price = bottleneck.map((each) => Math.max(1, each) ** work);
    const order: number[] = [];
    for (let now = margin * this.busy; left.length > 0;) {
      let best = 0;
      let most = -1;
      for (let i = 0; i < left.length; i++) {
        const job = left[i]!;
        const slack = Math.max(0, begin[job]! - now);
        const gain = ((jobs[job]!.weight ?? 1) * (flow + tardiness * Math.exp(-slack / window))) / price[job]!;
        if (gain <= most) continue;
        most = gain;
        best = i;
      }
      const [job] = left.splice(best, 1);
      order.push(job!);
      now += bottleneck[job!]!;
    }
    return spread(this.compiled, order);
  }
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

function asksOf(compiled: Compiled, { latest, weight }: Urgency): Asks {
  const { tasks, resources, problem } = compiled;
  const familyOf = familiesOf(compiled);
  const demand = new Float64Array(resources.length);
  const uses = tasks.map((task) =>
    (task.batch ? [{ ...task.batch, units: task.batch.units }] : task.takes).map(({ resource, units }) => {
      const { capacity, batch } = resources[resource]!;
      const share = Math.min(1, units / capacity) / (batch?.machines ?? 1);
      // Melting a charge keeps the crucible as busy as pouring it.
      const setup = task.inLoad ? units * task.inLoad.rule.perUnit : 0;
      return { resource, minutes: (task.duration * share + setup) / Math.max(0.01, shareOpen(task.open).share) };
    }),
  );
  for (const list of uses) for (const { resource, minutes } of list) demand[resource]! += minutes;
  const busiest = demand.indexOf(demand.reduce((most, each) => Math.max(most, each), 0));
  const zero = () => new Float64Array(problem.jobs.length);
  const asks = { bottleneck: zero(), all: zero(), begin: zero().fill(1e9) };
  tasks.forEach(({ job: own, place }) => {
    const job = familyOf[place]! >= 0 ? familyOf[place]! : own;
    for (const { resource, minutes } of uses[place]!) {
      asks.all[job]! += minutes;
      if (resource === busiest) asks.bottleneck[job]! += minutes;
    }
    if (weight[place]! > 0) asks.begin[job] = Math.min(asks.begin[job]!, latest[place]!);
  });
  return asks;
}
