import type { Compiled } from '../compile.ts';
import type { Load, Loads } from './loads.ts';
import { loadsOf } from './loads.ts';
import { Profile } from './profile.ts';

/** What a task was before a trial touched it. */
interface Before {
  readonly place: number;
  readonly isPut: boolean;
  readonly start: number;
  readonly end: number;
  readonly load: Load | null;
}

/** What moving a task from where it was promised costs; nothing where nobody was promised anything. */
export interface Nearness {
  /** Each task's former start; NaN where it had none. */
  readonly starts: Float64Array;
  /** Cost of a minute's difference, by the task. */
  readonly perMinute: Float64Array;
}

/**
 * A schedule in the making: where each task stands, what is in use, the loads, and what it all costs. A trial can be
 * taken back as a whole. It keeps books; whether something may stand somewhere is asked elsewhere.
 */
export class Board {
  readonly starts: Float64Array;
  readonly ends: Float64Array;
  readonly put: Uint8Array;
  /** How many tasks are put. */
  putCount = 0;
  /** How many tasks before each one are not put. */
  readonly waiting: Int32Array;
  readonly loadOf: (Load | null)[];
  readonly profiles: readonly Profile[];
  readonly loads: readonly (Loads | null)[];
  /** The tasks of each job, by their places. */
  readonly tasksOf: readonly (readonly number[])[];
  /** The objective, with what moving costs; right where every task is put. */
  cost = 0;
  private readonly jobCost: Float64Array;
  private readonly finish: Float64Array;
  private readonly stale: number[] = [];
  private readonly isStale: Uint8Array;
  private loadCost = 0;
  private moved = 0;
  /** Whether what is done now may be taken back. */
  private isTrial = true;
  private before: Before[] = [];
  private readonly touched: Uint8Array;
  private costBefore = 0;

  constructor(
    private readonly compiled: Compiled,
    private readonly near?: Nearness,
  ) {
    const { tasks, resources, into, problem } = compiled;
    this.starts = new Float64Array(tasks.length);
    this.ends = new Float64Array(tasks.length);
    this.put = new Uint8Array(tasks.length);
    this.touched = new Uint8Array(tasks.length);
    this.waiting = Int32Array.from(into, (arcs) => arcs.length);
    this.loadOf = tasks.map(() => null);
    this.profiles = resources.map(({ capacity }) => new Profile(capacity));
    this.loads = loadsOf(compiled);
    const tasksOf: number[][] = problem.jobs.map(() => []);
    for (const { place, job } of tasks) tasksOf[job]!.push(place);
    this.tasksOf = tasksOf;
    this.jobCost = new Float64Array(problem.jobs.length);
    this.finish = new Float64Array(problem.jobs.length).fill(-Infinity);
    this.isStale = new Uint8Array(problem.jobs.length);
  }

  /** Puts a task, in a load where it needs one. */
  place(place: number, start: number, end: number, load: Load | null): void {
    this.remember(place);
    this.enter(place, start, end, load);
  }

  /** Takes one task out; what follows it must not be put. */
  lift(place: number): void {
    this.remember(place);
    this.leave(place);
  }

  private enter(place: number, start: number, end: number, load: Load | null): void {
    const task = this.compiled.tasks[place]!;
    this.starts[place] = start;
    this.ends[place] = end;
    this.put[place] = 1;
    this.putCount++;
    this.loadOf[place] = load;
    for (const { resource, units } of task.takes) this.profiles[resource]!.take(start, end, units);
    if (load) {
      const book = this.loads[load.resource]!;
      if (load.members.size === 0) {
        this.loadCost += book.cost;
        this.holdFor(load, 1);
      }
      book.enter(task, load);
    }
    for (const { to } of this.compiled.out[place]!) this.waiting[to]!--;
    this.moved += this.moveCost(place, start);
    this.markJob(task.job);
  }

  private leave(place: number): void {
    const task = this.compiled.tasks[place]!;
    const [start, end, load] = [this.starts[place]!, this.ends[place]!, this.loadOf[place]!];
    this.put[place] = 0;
    this.putCount--;
    this.loadOf[place] = null;
    for (const { resource, units } of task.takes) this.profiles[resource]!.take(start, end, -units);
    if (load) {
      const book = this.loads[load.resource]!;
      book.leave(task, load);
      if (load.members.size === 0) {
        this.loadCost -= book.cost;
        this.holdFor(load, -1);
      }
    }
    for (const { to } of this.compiled.out[place]!) this.waiting[to]!++;
    this.moved -= this.moveCost(place, start);
    this.markJob(task.job);
  }

  /** Takes what a load holds once, or gives it back. */
  private holdFor({ resource, start, end }: Load, sign: 1 | -1): void {
    for (const need of this.compiled.loadRules[resource]!.needs)
      this.profiles[need.resource]!.take(start - need.before, end, sign * need.units);
  }

  private moveCost(place: number, start: number): number {
    if (!this.near) return 0;
    const was = this.near.starts[place]!;
    return Number.isNaN(was) ? 0 : Math.abs(start - was) * this.near.perMinute[place]!;
  }

  private markJob(job: number): void {
    if (this.isStale[job]) return;
    this.isStale[job] = 1;
    this.stale.push(job);
  }

  private remember(place: number): void {
    if (!this.isTrial || this.touched[place]) return;
    this.touched[place] = 1;
    this.before.push({
      place,
      isPut: this.put[place] === 1,
      start: this.starts[place]!,
      end: this.ends[place]!,
      load: this.loadOf[place]!,
    });
  }

  /**
   * Takes everything out but some tasks, at once and for good: what follows up to the next trial cannot be taken back.
   * @param kept tasks that stay, each after those that it waits for
   */
  reset(kept: readonly number[]): void {
    this.begin();
    this.isTrial = false;
    const { compiled } = this;
    const stay = kept.map((place) => ({
      place,
      start: this.starts[place]!,
      end: this.ends[place]!,
      load: this.loadOf[place]!,
    }));
    this.put.fill(0);
    this.putCount = 0;
    this.loadOf.fill(null);
    this.loadCost = 0;
    this.moved = 0;
    for (let place = 0; place < this.waiting.length; place++) this.waiting[place] = compiled.into[place]!.length;
    for (const profile of this.profiles) profile.clear();
    for (const book of this.loads) book?.clear();
    for (let job = 0; job < this.isStale.length; job++) this.markJob(job);
    for (const { place, start, end, load } of stay) this.enter(place, start, end, load);
  }

  /** Begins a trial. */
  begin(): void {
    this.isTrial = true;
    for (const { place } of this.before) this.touched[place] = 0;
    this.before = [];
    this.costBefore = this.cost;
  }

  /** How many tasks the trial has touched. */
  get touchedCount(): number {
    return this.before.length;
  }

  /** Takes the trial back: everything stands where it stood. */
  takeBack(): void {
    const { before } = this;
    for (const { place } of before) if (this.put[place]) this.leave(place);
    for (const { place, isPut, start, end, load } of before) if (isPut) this.enter(place, start, end, load);
    this.begin();
    this.reckon();
    this.cost = this.costBefore;
  }

  /** Works the cost out anew where something changed. @returns the cost */
  reckon(): number {
    const { makespan = 0 } = this.compiled.problem.objective;
    for (const job of this.stale.splice(0)) {
      this.isStale[job] = 0;
      let end = -Infinity;
      for (const place of this.tasksOf[job]!) if (this.put[place] && this.ends[place]! > end) end = this.ends[place]!;
      this.finish[job] = end;
      this.jobCost[job] = this.priceOf(job, end);
    }
    let sum = this.besideJobs();
    let last = 0;
    for (let job = 0; job < this.jobCost.length; job++) {
      sum += this.jobCost[job]!;
      if (this.finish[job]! > last) last = this.finish[job]!;
    }
    this.cost = sum + makespan * last;
    return this.cost;
  }

  /** What a job costs that ends at a minute; nothing where it has no end yet. */
  priceOf(job: number, end: number): number {
    const { jobs, objective } = this.compiled.problem;
    const { weight = 1, due, release = 0 } = jobs[job]!;
    if (end === -Infinity || weight === 0) return 0;
    const late = due === undefined ? 0 : Math.max(0, end - due);
    return weight * ((objective.flow ?? 0) * (end - release) + (objective.tardiness ?? 0) * late);
  }

  /** What loads and moving cost. */
  besideJobs(): number {
    return (this.compiled.problem.objective.loads ?? 0) * this.loadCost + this.moved;
  }

  /** What all jobs but some cost, as they were last reckoned, and their last end. */
  without(jobs: Uint8Array): { rest: number; last: number } {
    let rest = 0;
    let last = 0;
    for (let job = 0; job < this.jobCost.length; job++) {
      if (jobs[job]) continue;
      rest += this.jobCost[job]!;
      if (this.finish[job]! > last) last = this.finish[job]!;
    }
    return { rest, last };
  }

  /** What a job adds to the cost. */
  costOf(job: number): number {
    return this.jobCost[job]!;
  }

  finishOf(job: number): number {
    return this.finish[job]!;
  }
}
