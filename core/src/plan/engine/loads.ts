import type { Compiled, Task } from '../compile.ts';
import { endOf } from '../openings.ts';
import type { LoadRule } from '../load-rules.ts';
import type { PlanResource } from '../problem.ts';
import { UNITS_TOLERANCE } from '../problem.ts';
import { CountedMachines, OrderedMachines } from './machines.ts';
import type { Machines, Wanted } from './machines.ts';

/** One load of a batch resource. */
export interface Load {
  readonly resource: number;
  readonly start: number;
  readonly end: number;
  /** The longest duration in it. */
  readonly duration: number;
  readonly key: string | undefined;
  /** Which of the machines runs it, where that counts. */
  readonly machine: number;
  readonly members: Set<Task>;
  units: number;
}

/** The loads of one batch resource, in the order of their starts, and how many of its machines run. */
export class Loads {
  readonly list: Load[] = [];
  readonly capacity: number;
  readonly maxTasks: number;
  /** What one load costs, before the objective's factor. */
  readonly cost: number;
  private readonly machines: Machines;

  constructor(
    readonly place: number,
    resource: PlanResource,
    readonly rule: LoadRule,
  ) {
    const { maxTasks, loadCost } = resource.batch!;
    this.machines = rule.isOrdered ? new OrderedMachines(rule) : new CountedMachines(rule);
    this.maxTasks = maxTasks ?? Infinity;
    this.cost = loadCost ?? 0;
    this.capacity = resource.capacity;
  }

  /** The place in the list of the first load that starts at or after a minute. */
  from(minute: number): number {
    let low = 0;
    let high = this.list.length;
    while (low < high) {
      const middle = (low + high) >> 1;
      if (this.list[middle]!.start < minute) low = middle + 1;
      else high = middle;
    }
    return low;
  }

  /** Whether a task may join a load by key, units, count and duration. */
  takes(load: Load, task: Task): boolean {
    return (
      load.key === task.batch!.key &&
      load.duration >= task.duration &&
      load.members.size < this.maxTasks &&
      (load.end === load.start || load.units + task.batch!.units <= this.capacity + UNITS_TOLERANCE) &&
      this.machines.mayHold(load, load.units + task.batch!.units)
    );
  }

  /** When a machine could be free for a load, where none is; undefined where one is. */
  blockedUntil(load: Wanted): number | undefined {
    return this.machines.blockedUntil(load);
  }

  /**
   * A load that nobody is in yet; it counts from its first member on.
   * @param machine the one that it ran on before
   */
  create(wanted: Wanted, duration: number, machine = this.machines.machineFor(wanted)): Load {
    const { start, end, key } = wanted;
    return { resource: this.place, start, end, duration, key, machine, members: new Set(), units: 0 };
  }

  /** A load whose setup no longer fits, now that one is gone. */
  wrongWithout(gone: Load): Load | undefined {
    return this.machines.wrongWithout(gone);
  }

  /** The load that a fixed task is in: one of the same start, or a new one; nothing where no machine is free. */
  forFixed(task: Task, start: number, end: number): Load | undefined {
    for (let i = this.from(start); i < this.list.length && this.list[i]!.start === start; i++) {
      const load = this.list[i]!;
      if (this.takes(load, task) && endOf(task.open, task.spans, start, load.duration) === load.end) return load;
    }
    const { units, key } = task.batch!;
    const wanted = { start, end, units, key };
    return this.blockedUntil(wanted) === undefined ? this.create(wanted, task.duration) : undefined;
  }

  /** Takes all loads out at once. */
  clear(): void {
    for (const load of this.list) {
      load.members.clear();
      load.units = 0;
    }
    this.list.length = 0;
    this.machines.clear();
  }

  enter(task: Task, load: Load): void {
    if (load.members.size === 0) {
      const { list } = this;
      let i = list.length;
      while (i > 0 && list[i - 1]!.start > load.start) i--;
      list.splice(i, 0, load);
      this.machines.take(load);
      load.units = 0;
    }
    load.members.add(task);
    load.units += task.batch!.units;
  }

  leave(task: Task, load: Load): void {
    load.members.delete(task);
    load.units -= task.batch!.units;
    if (load.members.size > 0) return;
    this.list.splice(this.list.indexOf(load), 1);
    this.machines.give(load);
  }
}

/** The books of all batch resources, by the resource's place. */
export const loadsOf = ({ resources, loadRules }: Compiled): (Loads | null)[] =>
  resources.map((resource, place) => (resource.batch ? new Loads(place, resource, loadRules[place]!) : null));
