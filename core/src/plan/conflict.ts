import type { Arc, Compiled, Task } from './compile.ts';
import { impossibleLoad, pinnedSetup } from './conflict-loads.ts';
import { endOf, shareOpen } from './openings.ts';
import { listUnder } from '../units/lists.ts';
import type { PlanMessage } from './problem.ts';
import { LAST_MINUTE, UNITS_TOLERANCE, linkName } from './problem.ts';
import { longestDurations, relax, relaxed } from './relax.ts';

/**
 * What makes a valid problem impossible, proven without searching: a task that fits nowhere, pinned tasks that exceed a
 * capacity together, or links whose lags and calendars contradict each other. Nothing where nothing was proven.
 */
export function provenConflict(compiled: Compiled): PlanMessage[] {
  const single = impossibleTasks(compiled);
  if (single.length > 0) return single;
  const pinned = pinnedConflict(compiled) ?? pinnedSetup(compiled);
  if (pinned) return [pinned];
  const circle = lagCircle(compiled);
  if (circle) return [linksMessage(compiled, circle)];
  const { impossible, starts } = relaxed(compiled);
  if (impossible) return [chainMessage(compiled, impossible.task)];
  const crowded = overload(compiled) ?? crowdedPair(compiled, starts);
  return crowded ? [crowded] : [];
}

/** A resource that has more to do than it is open in all the time there is. */
function overload({ tasks, resources, openings }: Compiled): PlanMessage | undefined {
  const worksOf = new Map<number, { task: string; work: number }[]>();
  for (const { id: task, fixed, spans, duration, takes } of tasks)
    for (const { resource, units } of takes)
      // What runs on through closed hours needs no open minutes, and what is fixed may lie before the beginning.
      if (fixed === null && (spans !== 'through' || openings[resource] === null))
        listUnder(worksOf, resource, { task, work: units * duration });
  for (const [resource, works] of worksOf) {
    const { id, capacity, calendar } = resources[resource]!;
    const open = openings[resource]!;
    const minutes = open === null ? LAST_MINUTE : (open.before.at(-1) ?? 0) + lastLength(open);
    works.sort((a, b) => b.work - a.work);
    let sum = 0;
    const named: string[] = [];
    for (const { task, work } of works) {
      sum += work;
      named.push(task);
      if (sum <= capacity * minutes * (1 + 1e-9)) continue;
      return {
        ids: [...named, id, ...(calendar === undefined ? [] : [calendar])],
        text: `${id} is open for ${minutes} min in all; ${named.length > 4 ? `${named.length} tasks` : named.join(', ')} need ${sum / capacity} of it`,
      };
    }
  }
  return undefined;
}

const lastLength = ({ from, to }: { readonly from: Float64Array; readonly to: Float64Array }): number =>
  from.length === 0 ? 0 : to.at(-1)! - from.at(-1)!;

/** Tasks on one resource that are looked at in pairs at most. */
const MOST_PAIRED = 400;

/**
 * Two tasks that cannot share a resource and that must both start so soon after something fixed that neither can follow
 * the other.
 */
function crowdedPair({ tasks, resources, out, order }: Compiled, starts: Float64Array): PlanMessage | undefined {
  const latest = new Float64Array(tasks.length).fill(Infinity);
  for (const place of order) {
    const task = tasks[place]!;
    const start = task.fixed ?? latest[place]!;
    if (start === Infinity) continue;
    const end = endOf(task.open, task.spans, start, task.duration);
    // In a load it may run longer than by itself; then nothing is known of what follows.
    if (task.batch && task.fixed === null) continue;
    for (const { to, maxLag } of out[place]!) latest[to] = Math.min(latest[to]!, end + maxLag);
  }
  for (const [resource, { id, capacity, batch }] of resources.entries()) {
    if (batch) continue;
    const bound = tasks
      .filter((task) => task.duration > 0 && latest[task.place]! < Infinity && task.fixed === null)
      .flatMap((task) => task.takes.filter((take) => take.resource === resource).map(({ units }) => ({ task, units })))
      .slice(0, MOST_PAIRED);
    const soonestEnd = ({ place, open, spans, duration }: Task) => endOf(open, spans, starts[place]!, duration);
    for (const [i, one] of bound.entries())
      for (const other of bound.slice(i + 1)) {
        if (one.units + other.units <= capacity + UNITS_TOLERANCE) continue;
        const follows = (a: Task, b: Task) => soonestEnd(a) <= latest[b.place]!;
        if (follows(one.task, other.task) || follows(other.task, one.task)) continue;
        return {
          ids: [one.task.id, other.task.id, id],
          text: `${one.task.id} and ${other.task.id} must both start so soon that ${id} cannot do one after the other`,
        };
      }
  }
  return undefined;
}

/** Tasks that fit nowhere by themselves. */
function impossibleTasks(compiled: Compiled): PlanMessage[] {
  const { tasks, resources } = compiled;
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
    const inLoad = impossibleLoad(task, compiled);
    if (inLoad) return says(inLoad.text, ...inLoad.ids);
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

/** A number of loads that pinned tasks need at least: those of one start and key can share, if their ends can be one. */
function fewestLoads(there: readonly { task: Task; start: number }[], capacity: number, maxTasks: number): number {
  const groups = new Map<string, Task[]>();
  for (const { task, start } of there) listUnder(groups, JSON.stringify([start, task.batch!.key ?? null]), task);
  return [...groups.values()].reduce((sum, group) => {
    const units = group.reduce((all, { batch }) => all + batch!.units, 0);
    // No two that are over half can share a load.
    const big = group.filter(({ batch }) => batch!.units > capacity / 2 + UNITS_TOLERANCE).length;
    const most = Math.max(Math.ceil(units / capacity - UNITS_TOLERANCE), Math.ceil(group.length / maxTasks), big);
    return sum + Math.max(most, apart(group));
  }, 0);
}

/** Some of them, each of which ends at another minute than all the others however long their load runs. */
function apart(group: readonly Task[]): number {
  const durations = [...new Set(group.map(({ duration }) => duration))];
  const canShare = (a: Task, b: Task) =>
    durations
      .filter((duration) => duration >= Math.max(a.duration, b.duration))
      .some((duration) => endOf(a.open, a.spans, a.fixed!, duration) === endOf(b.open, b.spans, b.fixed!, duration));
  const chosen: Task[] = [];
  for (const task of group) if (!chosen.some((other) => canShare(task, other))) chosen.push(task);
  return chosen.length;
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
/** Bounds raised while links are left out one by one; what is left by then is named. */
const MOST_RAISED = 6_000_000;
/** Links are left out by a nearer end of time, which is quicker; at last the true one is asked. */
const NEAR_END = 2 * 365 * 1440;

/** The smallest set of links found that is impossible by itself around a task: links are left out as long as it stays so. */
function chainMessage(compiled: Compiled, task: number): PlanMessage {
  const { into, out } = compiled;
  const within = new Set([task]);
  for (const place of within) {
    for (const { from } of into[place]!) within.add(from);
    for (const { to } of out[place]!) within.add(to);
  }
  const all = [...within].flatMap((place) => out[place]!);
  const effort = { raised: 0 };
  const smallest = (limit: number): Arc[] => {
    let arcs = all;
    const without = new Set<Arc>();
    const stays = () => relax(compiled, { within, without, limit, effort }).impossible !== null;
    let tests = 0;
    for (let size = arcs.length >> 1; size >= 1; size >>= 1)
      for (let i = 0; i < arcs.length && tests < MOST_TESTS && effort.raised < MOST_RAISED; tests++) {
        const part = arcs.slice(i, i + size);
        part.forEach((arc) => without.add(arc));
        if (stays()) arcs = arcs.filter((arc) => !without.has(arc));
        else {
          part.forEach((arc) => without.delete(arc));
          i += size;
        }
      }
    return arcs;
  };
  const near = smallest(NEAR_END);
  const dropped = new Set(all.filter((arc) => !near.includes(arc)));
  const isProven = relax(compiled, { within, without: dropped }).impossible !== null;
  const arcs = isProven ? near : smallest(LAST_MINUTE);
  // Nothing that is linked to it stands in its way: its own hours do.
  return arcs.length === 0 ? aloneMessage(compiled, compiled.tasks[task]!) : linksMessage(compiled, arcs);
}

/** A task that the open minutes end for, whatever it is linked to. */
function aloneMessage(
  { resources }: Compiled,
  { id, place, duration, earliest, open, takes, batch }: Task,
): PlanMessage {
  const needed = [...takes, ...(batch ? [batch] : [])].map(({ resource }) => resources[resource]!);
  const calendars = [...new Set(needed.flatMap(({ calendar }) => calendar ?? []))];
  const left = open === null ? 0 : openMinutesFrom(open, earliest);
  const from = earliest > 0 ? ` from minute ${earliest} on` : '';
  return {
    path: `tasks[${place}]`,
    ids: [id, ...calendars],
    text: `${id} needs ${duration} open min${from}; the hours of ${calendars.join(', ') || 'all time'} have ${left}`,
  };
}

function openMinutesFrom(
  { from, to }: { readonly from: Float64Array; readonly to: Float64Array },
  minute: number,
): number {
  let sum = 0;
  for (let i = 0; i < from.length; i++) sum += Math.max(0, to[i]! - Math.max(from[i]!, minute));
  return sum;
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
