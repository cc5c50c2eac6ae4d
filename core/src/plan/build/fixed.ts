import type { Id } from '../../records/common.ts';
import type { PlanNote } from '../../records/plan.ts';
import type { Task } from '../compile.ts';
import { compile } from '../compile.ts';
import { loadsOf } from '../engine/loads.ts';
import type { Loads } from '../engine/loads.ts';
import { Profile } from '../engine/profile.ts';
import type { HeldByLoad } from '../load-rules.ts';
import { endOf } from '../openings.ts';
import type { PlanProblem, PlanTask } from '../problem.ts';
import { relax } from '../relax.ts';

export interface Settled {
  readonly problem: PlanProblem;
  readonly notes: readonly PlanNote[];
  readonly urgent: readonly Id[];
}

interface Names {
  readonly label: (id: Id) => string;
  readonly running: (id: Id) => boolean;
  /** What begins later where something else is fixed: hands that are gone, once they have finished what they are at. */
  readonly givesWay: (id: Id) => boolean;
}

/**
 * Makes what is fixed possible together: a pin that comes before what must be done first goes; of running and pinned steps
 * that exceed a capacity together, first the pins go, then what a running step needs.
 */
export function settleFixed(problem: PlanProblem, { label, running, givesWay }: Names): Settled {
  const notes: PlanNote[] = [];
  const urgent: Id[] = [];
  const unpin = (task: PlanTask, why: string): PlanTask => {
    const { fixedStart, ...rest } = task;
    notes.push({
      cause: 'pin',
      text: `${label(task.id)} cannot be kept where it is pinned: ${why}`,
      stepId: task.id,
      urgent: true,
    });
    urgent.push(task.id);
    return { ...rest, earliest: Math.max(rest.earliest ?? 0, fixedStart!) };
  };
  const isPin = ({ id, fixedStart, needs }: PlanTask) =>
    fixedStart !== undefined && needs.length > 0 && !running(id) && !givesWay(id);

  // How early could a pinned step start at all, were it not pinned?
  const free = problem.tasks.map((task) => {
    if (!isPin(task)) return task;
    const { fixedStart: _, ...rest } = task;
    return rest;
  });
  const freed = compile({ ...problem, tasks: free, links: problem.links.map(({ maxLag: _, ...link }) => link) });
  const { starts } = relax(freed);
  let tasks = problem.tasks.map((task, place) =>
    isPin(task) && starts[place]! > task.fixedStart!
      ? unpin(task, 'what comes before it cannot be done by then')
      : task,
  );

  const made = compile({ ...problem, tasks });
  const { tasks: compiled, resources } = made;
  const profiles = resources.map(({ capacity }) => new Profile(capacity));
  const books = loadsOf(made);
  const fixed = compiled
    .filter(({ fixed: start }) => start !== null)
    .sort((a, b) => Number(running(b.id)) - Number(running(a.id)) || a.fixed! - b.fixed! || (a.id < b.id ? -1 : 1));
  const given = [...tasks];
  for (const task of fixed) {
    if (givesWay(task.id)) {
      given[task.place] = begunLater(given[task.place]!, task, profiles);
      continue;
    }
    const start = task.fixed!;
    const end = endOf(task.open, task.spans, start, task.duration);
    const fits =
      task.takes.every(({ resource, units }) => profiles[resource]!.blockedUntil(start, end, units) === undefined) &&
      (task.batch === null || fitsLoad(books[task.batch.resource]!, profiles, task, start, end));
    if (!fits) {
      const original = given[task.place]!;
      given[task.place] = running(task.id)
        ? { ...original, needs: [] }
        : unpin(original, 'there is no room, hand or metal for it then');
      continue;
    }
    for (const { resource, units } of task.takes) profiles[resource]!.take(start, end, units);
  }
  tasks = given;
  return { problem: { ...problem, tasks }, notes, urgent };
}

/** From when on it takes what it takes, up to its end; nothing at all where there is never room. */
function begunLater(given: PlanTask, { fixed, takes, duration }: Task, profiles: readonly Profile[]): PlanTask {
  const end = fixed! + duration;
  let start = fixed!;
  for (const { resource, units } of takes)
    for (let at = profiles[resource]!.blockedUntil(start, end, units); at !== undefined && start < end;) {
      start = Math.min(at, end);
      at = start < end ? profiles[resource]!.blockedUntil(start, end, units) : undefined;
    }
  if (start >= end) return { ...given, needs: [] };
  for (const { resource, units } of takes) profiles[resource]!.take(start, end, units);
  return { ...given, fixedStart: start, duration: end - start };
}

/** Puts a fixed task into a load of its start, or into a new one; false where there is neither, or not what it holds. */
function fitsLoad(book: Loads, profiles: readonly Profile[], task: Task, start: number, end: number): boolean {
  const load = book.forFixed(task, start, end);
  if (!load) return false;
  if (load.members.size === 0) {
    const { needs } = book.rule;
    const isTaken = ({ resource, units, before }: HeldByLoad) =>
      profiles[resource]!.blockedUntil(start - before, end, units) !== undefined;
    if (needs.some(isTaken)) return false;
    for (const { resource, units, before } of needs) profiles[resource]!.take(start - before, end, units);
  }
  book.enter(task, load);
  return true;
}
