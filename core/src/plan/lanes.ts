import type { Compiled, Task } from './compile.ts';
import type { ScheduledTask } from './problem.ts';
import { UNITS_TOLERANCE } from './problem.ts';

/** What holds units of a resource: tasks of one place, start and end together. */
interface Holder {
  readonly node: number;
  readonly start: number;
  readonly end: number;
  readonly units: number;
}

/** Which holder hands what it held on to which other, as a schedule has it. */
export interface Handover {
  readonly from: number;
  readonly to: number;
  readonly resource: number;
}

/**
 * The flow of resources in a schedule: each task takes its units from those that gave them back before it. Whoever keeps
 * these in their order keeps every capacity, whatever the durations (C. Artigues and others, 2003). Of several that were
 * free, those that were free longest are taken: they put off the fewest.
 */
export function handovers(
  { tasks, resources }: Compiled,
  placed: readonly ScheduledTask[],
  nodeOf: (task: Task) => number,
): Handover[] {
  const found: Handover[] = [];
  resources.forEach(({ capacity, batch }, resource) => {
    const holders = batch ? loadHolders(tasks, placed, resource, nodeOf) : unitHolders(tasks, placed, resource, nodeOf);
    flow(holders, batch ? (batch.machines ?? 1) : capacity, resource, found, batch?.setup ?? 0);
  });
  return found;
}

function unitHolders(
  tasks: readonly Task[],
  placed: readonly ScheduledTask[],
  resource: number,
  nodeOf: (task: Task) => number,
): Holder[] {
  return tasks.flatMap((task) =>
    task.takes
      .filter((take) => take.resource === resource)
      .map(({ units }) => ({
        node: nodeOf(task),
        start: placed[task.place]!.start,
        end: placed[task.place]!.end,
        units,
      })),
  );
}

function loadHolders(
  tasks: readonly Task[],
  placed: readonly ScheduledTask[],
  resource: number,
  nodeOf: (task: Task) => number,
): Holder[] {
  const loads = new Map<number, Holder>();
  for (const task of tasks) {
    if (task.batch?.resource !== resource) continue;
    const { start, end } = placed[task.place]!;
    loads.set(nodeOf(task), { node: nodeOf(task), start, end, units: 1 });
  }
  return [...loads.values()];
}

function flow(holders: Holder[], capacity: number, resource: number, found: Handover[], setup: number): void {
  // What takes no time holds nothing.
  const users = holders.filter(({ start, end, units }) => (end > start || setup > 0) && units > 0);
  users.sort((a, b) => a.start - b.start || a.end - b.end);
  /** Units that are free, with who held them last and until when; at first all were always free. */
  const free: { node: number; end: number; units: number }[] = [{ node: -1, end: -Infinity, units: capacity }];
  const busy: { node: number; end: number; units: number }[] = [];
  for (const { node, start, end, units } of users) {
    for (let i = busy.length - 1; i >= 0; i--) if (busy[i]!.end + setup <= start) free.push(...busy.splice(i, 1));
    free.sort((a, b) => a.end - b.end);
    let wanted = units;
    while (wanted > UNITS_TOLERANCE && free.length > 0) {
      const part = free[0]!;
      const taken = Math.min(part.units, wanted);
      if (part.node >= 0 && part.node !== node) found.push({ from: part.node, to: node, resource });
      wanted -= taken;
      part.units -= taken;
      if (part.units <= UNITS_TOLERANCE) free.shift();
    }
    busy.push({ node, end, units });
  }
}
