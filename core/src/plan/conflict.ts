import type { Arc, Compiled, Task } from './compile.ts';
import { endOf, shareOpen } from './openings.ts';
import type { PlanMessage } from './problem.ts';
import { LAST_MINUTE, UNITS_TOLERANCE, linkName } from './problem.ts';
import { longestDurations, relax } from './relax.ts';

/**
 * What makes a valid problem impossible, proven without searching: a task that fits nowhere, pinned tasks that exceed a
 * capacity together, or links whose lags and calendars contradict each other. Nothing where nothing was proven.
 */
export function provenConflict(compiled: Compiled): PlanMessage[] {
  const single = impossibleTasks(compiled);
  if (single.length > 0) return single;
  const pinned = pinnedConflict(compiled);
  if (pinned) return [pinned];
  const circle = lagCircle(compiled);
  if (circle) return [linksMessage(compiled, circle)];
  const { impossible } = relax(compiled);
  return impossible ? [chainMessage(compiled, impossible.task)] : [];
}

/** Tasks that fit nowhere by themselves. */
function impossibleTasks({ tasks, resources }: Compiled): PlanMessage[] {
  return tasks.flatMap((task): PlanMessage[] => {
    const path = `tasks[${task.place}]`;
    const says = (text: string, ...ids: string[]) => [{ path, ids: [task.id, ...ids], text }];
    for (const { resource, units } of [...task.takes, ...(task.batch ? [task.batch] : [])]) {
      const { id, capacity } = resources[resource]!;
      if (task.duration > 0 && units > capacity + UNITS_TOLERANCE)
        return says(`${task.id} needs ${units} of ${id}, which has ${capacity}`, id);
    }
    const needed = [...task.takes, ...(task.batch ? [task.batch] : [])].map(({ resource }) => resources[resource]!);
    const calendars = [...new Set(needed.flatMap(({ calendar }) => calendar ?? []))];
    if (task.fixed !== null)
      return endOf(task.open, task.spans, task.fixed, task.duration) > LAST_MINUTE
        ? says(`${task.id} is fixed at ${task.fixed} and cannot end by minute ${LAST_MINUTE}`, ...calendars)
        : [];
    const { longest } = shareOpen(task.open);
    if (longest === 0) return says(`nothing is ever open for ${task.id}`, ...calendars);
    if (task.spans === 'unbroken' && task.duration > longest)
      return says(`${task.id} needs ${task.duration} min without a break; at most ${longest} are open`, ...calendars);
    return [];
  });
}

/** Pinned tasks that together need more than there is, at some minute. */
function pinnedConflict(compiled: Compiled): PlanMessage | undefined {
  const pinned = compiled.tasks.filter((task) => task.fixed !== null);
  for (const [resource, { id, capacity, batch }] of compiled.resources.entries()) {
    const users = pinned
      .filter((task) => (batch ? task.batch?.resource === resource : task.takes.some((t) => t.resource === resource)))
      .map((task) => ({ task, start: task.fixed!, end: endOf(task.open, task.spans, task.fixed!, task.duration) }))
      .filter(({ start, end }) => end > start);
    for (const { start: minute } of users) {
      const there = users.filter(
        ({ start, end }) => start <= minute && minute < end + (batch ? (batch.setup ?? 0) : 0),
      );
      const needed = batch
        ? fewestLoads(there, capacity, batch.maxTasks ?? Infinity)
        : there.reduce((sum, { task }) => sum + task.takes.find((t) => t.resource === resource)!.units, 0);
      const most = batch ? (batch.machines ?? 1) : capacity;
      if (needed <= most + UNITS_TOLERANCE) continue;
      const ids = there.map(({ task }) => task.id);
      return {
        ids: [...ids, id],
        text: `pinned together at minute ${minute}, ${ids.join(', ')} need ${batch ? `${needed} loads` : needed} of ${id}, which has ${most}`,
      };
    }
  }
  return undefined;
}

/** A number of loads that pinned tasks need at least: those of one start and key can share. */
function fewestLoads(there: readonly { task: Task; start: number }[], capacity: number, maxTasks: number): number {
  const groups = new Map<string, { units: number; count: number; big: number }>();
  for (const { task, start } of there) {
    const key = JSON.stringify([start, task.batch!.key ?? null]);
    const group = groups.get(key) ?? { units: 0, count: 0, big: 0 };
    group.units += task.batch!.units;
    group.count += 1;
    // No two that are over half can share a load.
    if (task.batch!.units > capacity / 2 + UNITS_TOLERANCE) group.big += 1;
    groups.set(key, group);
  }
  return [...groups.values()].reduce(
    (sum, { units, count, big }) =>
      sum + Math.max(Math.ceil(units / capacity - UNITS_TOLERANCE), Math.ceil(count / maxTasks), big),
    0,
  );
}

/**
 * Links whose lags contradict each other whatever the calendars: a circle of "not before" and "not later" that adds up to
 * more than nothing (Bellman-Ford on the longest paths).
 */
function lagCircle(compiled: Compiled): Arc[] | undefined {
  const { tasks, out, order } = compiled;
  const longest = longestDurations(compiled);
  interface Edge {
    readonly from: number;
    readonly to: number;
    readonly weight: number;
    readonly arc: Arc;
  }
  const edges: Edge[] = [];
  for (const place of order)
    for (const arc of out[place]!) {
      const before = tasks[arc.from]!;
      edges.push({ from: arc.from, to: arc.to, weight: before.duration + arc.minLag, arc });
      // What pauses may take any time by the clock.
      if (arc.maxLag < Infinity && (before.open === null || before.spans !== 'pausing'))
        edges.push({ from: arc.to, to: arc.from, weight: -(longest[arc.from]! + arc.maxLag), arc });
    }
  const bound = new Float64Array(tasks.length);
  const parent: (Edge | undefined)[] = [];
  for (let round = 0; round < tasks.length; round++) {
    let changed: number | undefined;
    for (const edge of edges) {
      if (bound[edge.from]! + edge.weight <= bound[edge.to]!) continue;
      bound[edge.to] = bound[edge.from]! + edge.weight;
      parent[edge.to] = edge;
      changed = edge.to;
    }
    if (changed === undefined) return undefined;
    const circle = round % 16 === 15 || round === tasks.length - 1 ? circleOf(parent, changed) : undefined;
    if (circle) return [...new Set(circle.map(({ arc }) => arc))];
  }
  return undefined;

  function circleOf(parents: readonly (Edge | undefined)[], from: number): Edge[] | undefined {
    const seen = new Set<number>();
    let node = from;
    while (!seen.has(node)) {
      seen.add(node);
      const edge = parents[node];
      if (!edge) return undefined;
      node = edge.from;
    }
    const circle: Edge[] = [];
    for (let at = node; circle.length === 0 || at !== node;) {
      const edge = parents[at]!;
      circle.push(edge);
      at = edge.from;
    }
    return circle;
  }
}

const MOST_TESTS = 400;

/** The smallest set of links found that is impossible by itself around a task: links are left out as long as it stays so. */
function chainMessage(compiled: Compiled, task: number): PlanMessage {
  const { into, out } = compiled;
  const within = new Set([task]);
  for (const place of within) {
    for (const { from } of into[place]!) within.add(from);
    for (const { to } of out[place]!) within.add(to);
  }
  let arcs = [...within].flatMap((place) => out[place]!);
  const without = new Set<Arc>();
  const stays = () => relax(compiled, { within, without }).impossible !== null;
  let tests = 0;
  for (let size = arcs.length >> 1; size >= 1; size >>= 1) {
    for (let i = 0; i < arcs.length && tests < MOST_TESTS; tests++) {
      const part = arcs.slice(i, i + size);
      part.forEach((arc) => without.add(arc));
      if (stays()) arcs = arcs.filter((arc) => !without.has(arc));
      else {
        part.forEach((arc) => without.delete(arc));
        i += size;
      }
    }
  }
  return linksMessage(compiled, arcs);
}

function linksMessage({ tasks, problem }: Compiled, arcs: readonly Arc[]): PlanMessage {
  const named = arcs.map(({ from, to, minLag, maxLag }) => ({
    name: linkName({ from: tasks[from]!.id, to: tasks[to]!.id }),
    says: maxLag < Infinity ? `${minLag}–${maxLag} min` : `≥ ${minLag} min`,
  }));
  const members = [...new Set(arcs.flatMap(({ from, to }) => [from, to]))].map((place) => tasks[place]!);
  const fixed = members.filter((task) => task.fixed !== null).map(({ id }) => id);
  const calendars = [
    ...new Set(
      members.flatMap((task) =>
        [...task.takes, ...(task.batch ? [task.batch] : [])].flatMap(
          ({ resource }) => problem.resources[resource]!.calendar ?? [],
        ),
      ),
    ),
  ];
  return {
    ids: [...named.map(({ name }) => name), ...fixed, ...calendars],
    text: `cannot be kept together: ${named.map(({ name, says }) => `${name} (${says})`).join(', ')}${
      fixed.length > 0 ? `, with ${fixed.join(', ')} where it is fixed` : ''
    }${calendars.length > 0 ? `, in the hours of ${calendars.join(', ')}` : ''}`,
  };
}
