import type { Compiled, Task } from '../compile.ts';
import { earliestStart, earliestStartToEnd, endOf } from '../openings.ts';
import { LAST_MINUTE } from '../problem.ts';
import { Heap } from './heap.ts';
import type { Load, Loads } from './loads.ts';
import { loadsOf } from './loads.ts';
import { Profile } from './profile.ts';

/** Where every task was put. */
export interface Placing {
  readonly starts: Float64Array;
  readonly ends: Float64Array;
  /** Each task's load by name, where it has one. */
  readonly loads: ReadonlyMap<number, string>;
  /** Each load's resource id. */
  readonly resourceOf: ReadonlyMap<string, string>;
}

export interface SerialResult {
  readonly placing: Placing | null;
  /** Tasks that could not be put, where no placing was found. */
  readonly tightest: readonly number[];
}

/** How often a task may be put, on average, before the search is given up. */
const MOST_PUTS = 60;

/**
 * The serial planner: again and again the most urgent task whose predecessors are put goes to the first place where its
 * calendars, its resources and a load let it start. Where it would then be too late after one before it, that one is
 * taken out with all that followed from it and has to start later (after R. Kolisch, "Serial and parallel
 * resource-constrained project scheduling methods revisited", and the unscheduling step of B. Franck, K. Neumann and
 * C. Schwindt for maximum lags).
 * @param latest urgency of each task: its latest start, smaller is sooner
 */
export function planSerially(compiled: Compiled, latest: Float64Array): SerialResult {
  return new Serial(compiled, latest).run();
}

class Serial {
  private readonly profiles: Profile[];
  private readonly loads: (Loads | null)[];
  private readonly starts: Float64Array;
  private readonly ends: Float64Array;
  private readonly put: Uint8Array;
  private readonly waiting: Int32Array;
  private readonly earliest: Float64Array;
  private readonly urgency: Float64Array;
  private readonly loadOf = new Map<number, Load>();
  private readonly heap: Heap;
  private readonly pushed: Map<number, number> = new Map();

  constructor(
    private readonly compiled: Compiled,
    private readonly latest: Float64Array,
  ) {
    const { tasks, resources, into } = compiled;
    this.profiles = resources.map(({ capacity }) => new Profile(capacity));
    this.loads = loadsOf(compiled);
    this.starts = new Float64Array(tasks.length);
    this.ends = new Float64Array(tasks.length);
    this.put = new Uint8Array(tasks.length);
    this.waiting = Int32Array.from(into, (arcs) => arcs.length);
    this.earliest = Float64Array.from(tasks, ({ earliest }) => earliest);
    this.urgency = latest.slice();
    this.heap = new Heap((a, b) => {
      const less = this.urgency[a]! - this.urgency[b]!;
      return less !== 0 ? less < 0 : tasks[a]!.id < tasks[b]!.id;
    });
  }

  run(): SerialResult {
    const { tasks } = this.compiled;
    const failed = this.putFixed();
    if (failed.length > 0) return { placing: null, tightest: failed };
    for (const task of tasks) if (task.fixed === null && this.waiting[task.place] === 0) this.ready(task.place);
    let puts = MOST_PUTS * tasks.length + 2000;
    while (this.heap.size > 0) {
      const place = this.heap.pop()!;
      if (this.put[place] || this.waiting[place]! > 0) continue;
      if (puts-- < 0) return { placing: null, tightest: this.mostPushed() };
      const blocking = this.tryToPut(tasks[place]!);
      if (blocking === 'never') return { placing: null, tightest: [place] };
      if (blocking === 'fixed') return { placing: null, tightest: [place] };
    }
    return { placing: this.placing(), tightest: [] };
  }

  /** What is fixed stands where it is, each in a load with those of the same start. */
  private putFixed(): number[] {
    for (const task of this.compiled.tasks) {
      if (task.fixed === null) continue;
      const start = task.fixed;
      const ownEnd = endOf(task.open, task.spans, start, task.duration);
      if (task.batch) {
        const loads = this.loads[task.batch.resource]!;
        const mate = this.joinFixed(task, loads);
        if (mate === 'full') return [task.place];
        const load = mate ?? loads.open(task, start, ownEnd);
        this.loadOf.set(task.place, load);
        this.settle(task, start, load.end);
      } else {
        for (const { resource, units } of task.takes)
          if (this.profiles[resource]!.blockedUntil(start, ownEnd, units) !== undefined) return [task.place];
        this.settle(task, start, ownEnd);
      }
    }
    return [];
  }

  private joinFixed(task: Task, loads: Loads): Load | 'full' | undefined {
    const start = task.fixed!;
    for (const load of loads.joinable(task, start)) {
      if (load.start !== start) break;
      if (endOf(task.open, task.spans, start, load.duration) !== load.end) continue;
      load.members.add(task);
      load.units += task.batch!.units;
      return load;
    }
    const end = endOf(task.open, task.spans, start, task.duration);
    return loads.blockedUntil(start, end) === undefined ? undefined : 'full';
  }

  private ready(place: number): void {
    const soonest = this.window(place).latest;
    this.urgency[place] = Math.min(this.latest[place]!, soonest);
    this.heap.push(place);
  }

  /** Between which minutes a task may start by what was put before it. */
  private window(place: number): { earliest: number; latest: number } {
    let earliest = this.earliest[place]!;
    let latest = Infinity;
    for (const { from, minLag, maxLag } of this.compiled.into[place]!) {
      earliest = Math.max(earliest, this.ends[from]! + minLag);
      latest = Math.min(latest, this.ends[from]! + maxLag);
    }
    return { earliest, latest };
  }

  private tryToPut(task: Task): 'put' | 'taken out' | 'never' | 'fixed' {
    const { earliest, latest } = this.window(task.place);
    const found = task.batch ? this.placeInLoad(task, earliest) : this.placeAlone(task, earliest);
    if (!found) return 'never';
    if (found.start <= latest) {
      this.commit(task, found);
      return 'put';
    }
    return this.pushBack(task, found.start);
  }

  /** Those that would be too long before it have to end later; they and what followed from them are taken out. */
  private pushBack(task: Task, start: number): 'taken out' | 'fixed' | 'never' {
    for (const { from, maxLag } of this.compiled.into[task.place]!) {
      if (this.ends[from]! + maxLag >= start) continue;
      const before = this.compiled.tasks[from]!;
      if (before.fixed !== null) return 'fixed';
      const minute = earliestStartToEnd(before.open, before.spans, start - maxLag, before.duration);
      if (minute === Infinity) return 'never';
      this.earliest[from] = Math.max(minute, this.starts[from]! + 1);
      this.pushed.set(from, (this.pushed.get(from) ?? 0) + 1);
      this.takeOut(from);
      this.ready(from);
    }
    return 'taken out';
  }

  private placeAlone(task: Task, from: number): { start: number; end: number } | undefined {
    for (let minute = from; ;) {
      const start = earliestStart(task.open, task.spans, minute, task.duration);
      const end = endOf(task.open, task.spans, start, task.duration);
      if (end > LAST_MINUTE) return undefined;
      const blocked = this.blockedUntil(task, start, end);
      if (blocked === undefined) return { start, end };
      minute = blocked;
    }
  }

  /** The latest minute until which any of the task's own resources is taken; undefined where all are free. */
  private blockedUntil(task: Task, start: number, end: number): number | undefined {
    let until: number | undefined;
    for (const { resource, units } of task.takes) {
      const minute = this.profiles[resource]!.blockedUntil(start, end, units);
      if (minute !== undefined) until = Math.max(until ?? 0, minute);
    }
    return until;
  }

  private placeInLoad(task: Task, from: number): { start: number; end: number; load?: Load } | undefined {
    const loads = this.loads[task.batch!.resource]!;
    const alone = this.placeNewLoad(task, loads, from);
    for (const load of loads.joinable(task, from)) {
      if (alone && load.start > alone.start && !this.worthWaiting(task, alone.start, load.start)) break;
      if (earliestStart(task.open, task.spans, load.start, load.duration) !== load.start) continue;
      if (endOf(task.open, task.spans, load.start, load.duration) !== load.end) continue;
      if (this.blockedUntil(task, load.start, load.end) !== undefined) continue;
      return { start: load.start, end: load.end, load };
    }
    return alone;
  }

  /** Whether what a load less saves is more than what the wait costs, and the wait makes nothing late. */
  private worthWaiting(task: Task, now: number, later: number): boolean {
    const { objective, jobs, resources } = this.compiled.problem;
    if (later > this.latest[task.place]! || later > this.window(task.place).latest) return false;
    const saved = (objective.loads ?? 0) * (resources[task.batch!.resource]!.batch!.loadCost ?? 0);
    return (objective.flow ?? 0) * (jobs[task.job]!.weight ?? 1) * (later - now) < saved;
  }

  private placeNewLoad(task: Task, loads: Loads, from: number): { start: number; end: number } | undefined {
    for (let minute = from; ;) {
      const start = earliestStart(task.open, task.spans, minute, task.duration);
      const end = endOf(task.open, task.spans, start, task.duration);
      if (end > LAST_MINUTE) return undefined;
      const own = this.blockedUntil(task, start, end);
      const machine = loads.blockedUntil(start, end);
      if (own === undefined && machine === undefined) return { start, end };
      minute = Math.max(own ?? 0, machine ?? 0, start + 1);
    }
  }

  private commit(task: Task, { start, end, load }: { start: number; end: number; load?: Load }): void {
    if (task.batch) {
      if (load) {
        load.members.add(task);
        load.units += task.batch.units;
      }
      this.loadOf.set(task.place, load ?? this.loads[task.batch.resource]!.open(task, start, end));
    }
    this.settle(task, start, end);
    for (const { to } of this.compiled.out[task.place]!) if (this.waiting[to] === 0) this.ready(to);
  }

  private settle(task: Task, start: number, end: number): void {
    this.starts[task.place] = start;
    this.ends[task.place] = end;
    this.put[task.place] = 1;
    for (const { resource, units } of task.takes) this.profiles[resource]!.take(start, end, units);
    for (const { to } of this.compiled.out[task.place]!) this.waiting[to]!--;
  }

  /** Takes a task out, with what was put after it and what shared a load that shrinks. */
  private takeOut(place: number): void {
    const stack = [place];
    while (stack.length > 0) {
      const at = stack.pop()!;
      if (!this.put[at]) continue;
      const task = this.compiled.tasks[at]!;
      if (task.fixed !== null) continue;
      this.put[at] = 0;
      for (const { resource, units } of task.takes)
        this.profiles[resource]!.take(this.starts[at]!, this.ends[at]!, -units);
      for (const { to } of this.compiled.out[at]!) {
        this.waiting[to]!++;
        stack.push(to);
      }
      const load = this.loadOf.get(at);
      if (!load) continue;
      this.loadOf.delete(at);
      for (const mate of this.loads[task.batch!.resource]!.leave(task, load)) {
        stack.push(mate.place);
        this.again.push(mate.place);
      }
    }
    // Mates of a load that shrank were not pushed by anything before them: they are ready again as they were.
    for (const mate of this.again.splice(0)) if (!this.put[mate] && this.waiting[mate] === 0) this.ready(mate);
  }
  private readonly again: number[] = [];

  private mostPushed(): number[] {
    return [...this.pushed]
      .sort((a, b) => b[1] - a[1] || a[0] - b[0])
      .slice(0, 8)
      .map(([place]) => place);
  }

  private placing(): Placing {
    const loads = new Map<number, string>();
    const resourceOf = new Map<string, string>();
    this.loads.forEach((book, resource) => {
      const { id } = this.compiled.resources[resource]!;
      for (const [name, { members }] of book?.named(id) ?? []) {
        resourceOf.set(name, id);
        for (const { place } of members) loads.set(place, name);
      }
    });
    return { starts: this.starts, ends: this.ends, loads, resourceOf };
  }
}
