import type { Compiled } from '../compile.ts';
import { chainTails } from '../families.ts';
import type { Board } from './board.ts';

/**
 * What a trial will cost at least, while it is still being put together: a job ends no sooner than what is put of it and
 * the shortest way from there. A trial that already costs too much is broken off, which saves half of the work.
 */
export class Foresight {
  /** Beyond this a trial is of no use. */
  limit = Infinity;
  /** Minutes from a task's end to the end of its family's job, at least. */
  private readonly after: Float64Array;
  private readonly soonest: Float64Array;
  private readonly touched: Uint8Array;
  private jobs: number[] = [];
  private sum = 0;
  private last = 0;

  /** @param familyOf the job that alone waits for a task; −1 where several do */
  constructor(
    private readonly compiled: Compiled,
    private readonly board: Board,
    private readonly familyOf: Int32Array,
  ) {
    this.after = chainTails(compiled, familyOf);
    this.soonest = new Float64Array(compiled.problem.jobs.length);
    this.touched = new Uint8Array(compiled.problem.jobs.length);
  }

  /** Begins with what was taken out. @param limit the cost beyond which the trial is of no use */
  begin(out: readonly number[], limit: number): void {
    this.limit = limit;
    for (const job of this.jobs) this.touched[job] = 0;
    this.jobs = [];
    for (const place of out) this.touch(this.familyOf[place]!);
    for (const place of out) this.touch(this.compiled.tasks[place]!.job);
    const { rest, last } = this.board.without(this.touched);
    this.sum = rest;
    this.last = last;
  }

  private touch(job: number): void {
    if (job < 0 || this.touched[job]) return;
    this.touched[job] = 1;
    this.soonest[job] = -Infinity;
    this.jobs.push(job);
  }

  /** Takes note of a task that was put. @returns whether the trial is of no use any more */
  note(place: number, end: number): boolean {
    const job = this.familyOf[place]!;
    if (job < 0 || !this.touched[job]) return false;
    const finish = end + this.after[place]!;
    if (finish > this.soonest[job]!) {
      this.sum += this.board.priceOf(job, finish) - this.board.priceOf(job, this.soonest[job]!);
      this.soonest[job] = finish;
      if (finish > this.last) this.last = finish;
    }
    const { makespan = 0 } = this.compiled.problem.objective;
    return this.sum + this.board.besideJobs() + makespan * this.last > this.limit;
  }
}
