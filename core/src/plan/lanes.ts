import { listUnder } from '../units/lists.ts';
import type { Compiled, Task } from './compile.ts';
import type { LoadRule, LoadShape } from './load-rules.ts';
import { setupOf } from './load-rules.ts';
import type { ScheduledTask } from './problem.ts';
import { UNITS_TOLERANCE } from './problem.ts';
import { shareOut } from './share-out.ts';

/** What holds units of a resource: tasks of one place, start and end together. */
interface Holder {
  readonly node: number;
  readonly start: number;
  readonly end: number;
  readonly units: number;
  /** Minutes by which it holds them before it starts. */
  readonly before: number;
}

/** Which holder hands what it held on to which other, as a schedule has it, and the minutes from its end to the other's start. */
export interface Handover {
  readonly from: number;
  readonly to: number;
  readonly resource: number;
  readonly gap: number;
}

/**
 * The flow of resources in a schedule: each task takes its units from those that gave them back before it. Whoever keeps
 * these in their order keeps every capacity, whatever the durations (C. Artigues and others, 2003). Of several that were
 * free, those that were free longest are taken: they put off the fewest.
 */
export function handovers(
  compiled: Compiled,
  placed: readonly ScheduledTask[],
  nodeOf: (task: Task) => number,
): Handover[] {
  const { tasks, resources, loadRules } = compiled;
  const found: Handover[] = [];
  const loads = loadsIn(compiled, placed, nodeOf);
  const held = heldByLoads(compiled, loads);
  resources.forEach(({ capacity }, resource) => {
    const rule = loadRules[resource];
    if (rule?.isOrdered) found.push(...inTurn(rule, loads.get(resource) ?? [], resource));
    else if (rule) {
      const holders = (loads.get(resource) ?? []).map(({ node, start, end }) => ({
        node,
        start,
        end,
        units: 1,
        before: 0,
      }));
      flow(holders, rule.machines, resource, found, rule.setup);
    } else {
      const called = held.get(resource) ?? [];
      const own: Handover[] = [];
      flow([...unitHolders(tasks, placed, resource, nodeOf), ...called], capacity, resource, own, 0);
      found.push(...calledAway(own, new Set(called.map(({ node }) => node))));
    }
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
        before: 0,
      })),
  );
}

/**
 * Who is called to a load leaves what he is at: a pour waits for nobody's chasing to end. What follows it waits for it, and
 * for what was left.
 */
function calledAway(handed: readonly Handover[], loads: ReadonlySet<number>): Handover[] {
  if (loads.size === 0) return [...handed];
  const left = new Map<number, Handover[]>();
  for (const each of handed) if (loads.has(each.to) && !loads.has(each.from)) listUnder(left, each.to, each);
  return handed.flatMap((each) => {
    if (loads.has(each.to) && !loads.has(each.from)) return [];
    const before = loads.has(each.from) ? (left.get(each.from) ?? []) : [];
    return [each, ...before.filter(({ from }) => from !== each.to).map(({ from }) => ({ ...each, from, gap: 0 }))];
  });
}

interface LoadNode extends LoadShape {
  readonly node: number;
}

/** The loads of a schedule by their resource. */
function loadsIn(
  { tasks }: Compiled,
  placed: readonly ScheduledTask[],
  nodeOf: (task: Task) => number,
): Map<number, LoadNode[]> {
  const nodes = new Map<number, LoadNode & { units: number }>();
  const found = new Map<number, LoadNode[]>();
  for (const task of tasks) {
    if (!task.batch) continue;
    const { units, key, resource } = task.batch;
    const known = nodes.get(nodeOf(task));
    if (known) known.units += units;
    else {
      const { start, end } = placed[task.place]!;
      const node = { node: nodeOf(task), start, end, units, key };
      nodes.set(node.node, node);
      listUnder(found, resource, node);
    }
  }
  return found;
}

/** What loads hold once, by the resource that they hold. */
function heldByLoads({ loadRules }: Compiled, loads: ReadonlyMap<number, readonly LoadNode[]>): Map<number, Holder[]> {
  const held = new Map<number, Holder[]>();
  for (const [resource, nodes] of loads)
    for (const { resource: of, units, before } of loadRules[resource]!.needs)
      for (const { node, start, end } of nodes)
        listUnder(held, of, { node, start: start - before, end, units, before });
  return held;
}

/** Each machine from one load to the next, with the minutes that the next is set up in. */
function inTurn(rule: LoadRule, loads: readonly LoadNode[], resource: number): Handover[] {
  const { machines = [] } = shareOut(rule, loads);
  const inTime = [...loads.keys()].sort((a, b) => loads[a]!.start - loads[b]!.start || loads[a]!.end - loads[b]!.end);
  const last = new Map<number, LoadNode>();
  return inTime.flatMap((place) => {
    const load = loads[place]!;
    const before = last.get(machines[place]!);
    last.set(machines[place]!, load);
    return before ? [{ from: before.node, to: load.node, resource, gap: setupOf(rule, load, before) }] : [];
  });
}

function flow(holders: Holder[], capacity: number, resource: number, found: Handover[], setup: number): void {
  // What takes no time holds nothing.
  const users = holders.filter(({ start, end, units }) => (end > start || setup > 0) && units > 0);
  users.sort((a, b) => a.start - b.start || a.end - b.end);
  /** Units that are free, with who held them last and until when; at first all were always free. */
  const free: { node: number; end: number; units: number }[] = [{ node: -1, end: -Infinity, units: capacity }];
  const busy: { node: number; end: number; units: number }[] = [];
  for (const { node, start, end, units, before } of users) {
    for (let i = busy.length - 1; i >= 0; i--) if (busy[i]!.end + setup <= start) free.push(...busy.splice(i, 1));
    free.sort((a, b) => a.end - b.end);
    let wanted = units;
    while (wanted > UNITS_TOLERANCE && free.length > 0) {
      const part = free[0]!;
      const taken = Math.min(part.units, wanted);
      if (part.node >= 0 && part.node !== node)
        found.push({ from: part.node, to: node, resource, gap: before + setup });
      wanted -= taken;
      part.units -= taken;
      if (part.units <= UNITS_TOLERANCE) free.shift();
    }
    busy.push({ node, end, units });
  }
}
