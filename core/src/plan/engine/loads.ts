import type { Compiled, Task } from '../compile.ts';
import type { PlanResource } from '../problem.ts';
import { UNITS_TOLERANCE } from '../problem.ts';
import { Profile } from './profile.ts';

/** One load of a batch resource. */
export interface Load {
  readonly start: number;
  readonly end: number;
  /** The longest duration in it. */
  readonly duration: number;
  readonly key: string | undefined;
  readonly members: Set<Task>;
  units: number;
}

/** The loads of one batch resource, in the order of their starts, and how many of its machines run. */
export class Loads {
  private readonly list: Load[] = [];
  private readonly machines: Profile;
  private readonly setup: number;
  private readonly maxTasks: number;
  private readonly capacity: number;

  constructor(resource: PlanResource) {
    this.machines = new Profile(resource.batch!.machines ?? 1);
    this.setup = resource.batch!.setup ?? 0;
    this.maxTasks = resource.batch!.maxTasks ?? Infinity;
    this.capacity = resource.capacity;
  }

  /** Loads that a task may join by key, units, count and duration, from a minute on. */
  *joinable(task: Task, from: number): Generator<Load> {
    let low = 0;
    let high = this.list.length;
    while (low < high) {
      const middle = (low + high) >> 1;
      if (this.list[middle]!.start < from) low = middle + 1;
      else high = middle;
    }
    for (let i = low; i < this.list.length; i++) {
      const load = this.list[i]!;
      if (
        load.key === task.batch!.key &&
        load.duration >= task.duration &&
        load.members.size < this.maxTasks &&
        (load.end === load.start || load.units + task.batch!.units <= this.capacity + UNITS_TOLERANCE)
      )
        yield load;
    }
  }

  /** When a machine is free again, where none is for a load from one minute to another. */
  blockedUntil(start: number, end: number): number | undefined {
    return this.machines.blockedUntil(start, end + this.setup, 1);
  }

  open(task: Task, start: number, end: number): Load {
    const load: Load = {
      start,
      end,
      duration: task.duration,
      key: task.batch!.key,
      members: new Set([task]),
      units: task.batch!.units,
    };
    let i = this.list.length;
    while (i > 0 && this.list[i - 1]!.start > start) i--;
    this.list.splice(i, 0, load);
    this.machines.take(start, end + this.setup, 1);
    return load;
  }

  /** Takes a task out. @returns the others, where the load would run shorter without it: they have to leave too */
  leave(task: Task, load: Load): readonly Task[] {
    load.members.delete(task);
    load.units -= task.batch!.units;
    if (load.members.size === 0) {
      this.list.splice(this.list.indexOf(load), 1);
      this.machines.take(load.start, load.end + this.setup, -1);
      return [];
    }
    const rest = [...load.members];
    return rest.every(({ duration }) => duration < load.duration) ? rest : [];
  }

  /** The loads by name, in the order of their starts. */
  named(id: string): [name: string, load: Load][] {
    return this.list.map((load, i) => [`${id}#${i + 1}`, load]);
  }
}

/** The books of all batch resources, by the resource's place. */
export const loadsOf = ({ resources }: Compiled): (Loads | null)[] =>
  resources.map((resource) => (resource.batch ? new Loads(resource) : null));
