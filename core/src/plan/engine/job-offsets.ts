import type { Compiled } from '../compile.ts';
import { familiesOf } from '../families.ts';
import type { Urgency } from './priority.ts';

/** Jobs that are moved in one try at most, and by which share of the schedule at most. */
const MOST_MOVED = 3;
const FARTHEST = 0.2;
/** How often, once it is known what each job costs, a job is chosen by that; and how often one that costs is moved sooner. */
const BY_COST = 0.5;
const SOONER = 0.7;
/** A schedule that is better by so much makes it worth going on with whole ones. */
const WORTH_A_BUILD = 1e-3;
/** What costs by so much more than the best is gone on from. */
const NEARLY = 1.01;

/**
 * Orders by the latest starts, where each job counts as due some time sooner or later than it is: by changing a few of these
 * offsets at a time and building everything anew, a crowded shop finds out whom to let wait. Goes on from what is not much
 * worse than the best (record-to-record travel, G. Dueck 1993).
 */
export class JobOffsets {
  private readonly familyOf: Int32Array;
  private best = Infinity;
  private kept: Float64Array;
  private tried: Float64Array;
  /** What each job cost in the schedule that is gone on from. */
  private costs: Float64Array | undefined;

  constructor(
    private readonly compiled: Compiled,
    private readonly urgency: Urgency,
    private readonly random: () => number,
  ) {
    const { tasks, problem } = compiled;
    const families = familiesOf(compiled);
    this.familyOf = families.map((job, place) => (job < 0 ? tasks[place]!.job : job));
    this.kept = new Float64Array(problem.jobs.length);
    this.tried = this.kept;
  }

  /** An order to build a schedule by. @param span minutes that the schedule takes */
  next(span: number): Float64Array {
    const { random } = this;
    this.tried = this.kept.slice();
    for (let moves = 1 + Math.floor(random() * MOST_MOVED); moves > 0; moves--) {
      const job = this.anyJob();
      const isLate = this.costs !== undefined && this.costs[job]! > 0;
      const sign = random() < (isLate ? SOONER : 0.5) ? -1 : 1;
      // Where it is known what jobs cost most moves are small: the order is nearly right already.
      const far = this.costs === undefined ? random() : random() ** 2;
      this.tried[job]! += sign * far * FARTHEST * span;
    }
    return this.urgency.latest.map((latest, place) => latest + this.tried[this.familyOf[place]!]!);
  }

  /** Any job; where it is known what each costs, as often one that is the likelier the more it costs. */
  private anyJob(): number {
    const { costs, random } = this;
    const count = this.kept.length;
    if (costs === undefined || random() >= BY_COST) return Math.floor(random() * count);
    let left = random() * costs.reduce((sum, each) => sum + each, 0);
    const found = costs.findIndex((each) => (left -= each) < 0);
    return found < 0 ? count - 1 : found;
  }

  /**
   * What the schedule cost that was built by the last order.
   * @param costOf what each job costs in it, where that is to be gone by
   * @returns whether it is so much better than all before that it is worth going on
   */
  learn(cost: number, costOf?: (job: number) => number): boolean {
    if (cost > this.best * NEARLY) return false;
    this.kept = this.tried;
    if (costOf) this.costs = Float64Array.from(this.kept, (_, job) => costOf(job));
    const isBetter = cost < this.best * (1 - WORTH_A_BUILD);
    this.best = Math.min(this.best, cost);
    return isBetter;
  }
}
