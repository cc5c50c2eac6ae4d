import type { Compiled } from '../compile.ts';
import { familiesOf } from '../families.ts';
import type { Urgency } from './priority.ts';

/** Jobs that are moved in one try at most, and by which share of the schedule at most. */
const MOST_MOVED = 3;
const FARTHEST = 0.2;
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
    for (let moves = 1 + Math.floor(random() * MOST_MOVED); moves > 0; moves--)
      this.tried[Math.floor(random() * this.tried.length)]! += (random() - 0.5) * 2 * FARTHEST * span;
    return this.urgency.latest.map((latest, place) => latest + this.tried[this.familyOf[place]!]!);
  }

  /** What the schedule cost that was built by the last order. */
  learn(cost: number): void {
    if (cost > this.best * NEARLY) return;
    this.kept = this.tried;
    this.best = Math.min(this.best, cost);
  }
}
