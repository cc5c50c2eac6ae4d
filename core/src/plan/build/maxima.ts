import type { Id } from '../../records/common.ts';
import type { PlanNote } from '../../records/planning.ts';
import type { Arc, Compiled } from '../compile.ts';
import { compile } from '../compile.ts';
import type { PlanLink, PlanProblem } from '../problem.ts';
import { relax } from '../relax.ts';
import { DONE_BEFORE, PLANNED_AHEAD_MINUTES } from './snapshot.ts';

/**
 * Leaves out maximum waits that hours and waits alone cannot keep from where things stand, one after another until the
 * rest can be kept.
 */
export function dropImpossibleMaxima(
  problem: PlanProblem,
  label: (id: Id) => string,
): { readonly problem: PlanProblem; readonly notes: readonly PlanNote[]; readonly urgent: readonly Id[] } {
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
  if (dropped.size === 0) return { problem, notes: [], urgent: [] };
  return leaveOut(
    problem,
    new Set([...dropped].map(({ from, to }) => `${compiled.tasks[from]!.id} ${compiled.tasks[to]!.id}`)),
    label,
  );
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

/** Sends the named links without their maximum, and says so. */
export function leaveOut(problem: PlanProblem, names: ReadonlySet<string>, label: (id: Id) => string) {
  const notes: PlanNote[] = [];
  const urgent: Id[] = [];
  const links = problem.links.map((link): PlanLink => {
    if (link.maxLag === undefined || !names.has(`${link.from} ${link.to}`)) return link;
    const { maxLag: _, ...rest } = link;
    urgent.push(link.to);
    notes.push({
      text: link.from.startsWith(DONE_BEFORE)
        ? `${label(link.to)} cannot be done in time after what was done before it`
        : `${label(link.to)} cannot be done in time after ${label(link.from)}`,
      stepId: link.to,
      urgent: true,
    });
    return rest;
  });
  return { problem: { ...problem, links }, notes, urgent };
}
