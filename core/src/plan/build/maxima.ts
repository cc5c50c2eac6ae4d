import { PLANNED_AHEAD_MINUTES } from '../../units/instant.ts';
import type { Id } from '../../records/common.ts';
import type { PlanNote } from '../../records/plan.ts';
import type { Arc, Compiled } from '../compile.ts';
import { compile } from '../compile.ts';
import type { PlanLink, PlanProblem, Schedule } from '../problem.ts';
import { relax } from '../relax.ts';
import { DONE_BEFORE } from './snapshot.ts';

/**
 * Leaves out maximum waits that hours and waits alone cannot keep from where things stand, one after another until the
 * rest can be kept.
 */
export function dropImpossibleMaxima(problem: PlanProblem): WithoutMaxima {
  const compiled = compile(problem);
  const dropped = new Set<Arc>();
  const relaxed = new Map<Arc, Arc>();
  for (let current = compiled; ;) {
    const { impossible } = relax(current, { limit: 2 * PLANNED_AHEAD_MINUTES });
    const arc = impossible && maximumAt(current, impossible.task, impossible.arc);
    if (!arc) break;
    dropped.add(relaxed.get(arc) ?? arc);
    current = withoutMaximum(current, arc, relaxed);
  }
  if (dropped.size === 0) return { problem, left: [] };
  const links = new Set([...dropped].map(({ from, to }) => `${compiled.tasks[from]!.id} ${compiled.tasks[to]!.id}`));
  return withoutMaxima(problem, links);
}

/** The maximum that stands in the way: the arc itself, or the nearest one into the task that has one. */
function maximumAt({ into, out }: Compiled, task: number, arc: Arc | null): Arc | undefined {
  if (arc && arc.maxLag < Infinity) return arc;
  return [...into[task]!, ...out[task]!].find(({ maxLag }) => maxLag < Infinity);
}

function withoutMaximum(compiled: Compiled, arc: Arc, relaxed: Map<Arc, Arc>): Compiled {
  const free: Arc = { ...arc, maxLag: Infinity };
  relaxed.set(free, relaxed.get(arc) ?? arc);
  const swap = (arcs: readonly (readonly Arc[])[], place: number) =>
    arcs.map((list, i) => (i === place ? list.map((each) => (each === arc ? free : each)) : list));
  return { ...compiled, into: swap(compiled.into, arc.to), out: swap(compiled.out, arc.from) };
}

/** A problem, and the links that it was relieved of their maximum, as they were. */
export interface WithoutMaxima {
  readonly problem: PlanProblem;
  readonly left: readonly PlanLink[];
}

/** How steps and what they are on are called. */
export interface StepNames {
  readonly label: (id: Id) => string;
  readonly carrier: (id: Id) => string;
}

/** What is said of waits that are not kept, in the order given: several on one tree or piece are one note. */
function lateNotes(links: readonly PlanLink[], { label, carrier }: StepNames): PlanNote[] {
  const byCarrier = new Map<string, PlanLink[]>();
  for (const link of links) byCarrier.set(carrier(link.to), [...(byCarrier.get(carrier(link.to)) ?? []), link]);
  return [...byCarrier].map(([on, [first, ...more]]): PlanNote => {
    const { from, to } = first!;
    const before = from.startsWith(DONE_BEFORE) ? 'what was done before it' : label(from);
    const text =
      more.length === 0
        ? `${label(to)} cannot be done in time after ${before}`
        : `${on}: ${more.length + 1} steps come later than their waits allow, first ${label(to).split(' · ')[0]!.toLowerCase()}`;
    return { cause: 'wait', text, stepId: to, urgent: true };
  });
}

/** Sends the named links without their maximum. `left` are those links as they were. */
export function withoutMaxima(problem: PlanProblem, names: ReadonlySet<string>): WithoutMaxima {
  const left: PlanLink[] = [];
  const links = problem.links.map((link): PlanLink => {
    if (link.maxLag === undefined || !names.has(`${link.from} ${link.to}`)) return link;
    const { maxLag: _, ...rest } = link;
    left.push(link);
    return rest;
  });
  return { problem: { ...problem, links }, left };
}

/** What a schedule made of waits that were left out: only those it does not keep are worth a word. */
export function notKept(left: readonly PlanLink[], schedule: Schedule, names: StepNames): PlanNote[] {
  const tasks = new Map(schedule.tasks.map((task) => [task.id, task]));
  const late = left
    .filter(({ from, to, maxLag }) => tasks.get(to)!.start - tasks.get(from)!.end > maxLag!)
    .sort((a, b) => tasks.get(a.to)!.start - tasks.get(b.to)!.start);
  return lateNotes(late, names);
}
