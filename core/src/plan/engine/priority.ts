import type { Compiled } from '../compile.ts';
import { endOf, shareOpen } from '../openings.ts';
import { LAST_MINUTE } from '../problem.ts';
import type { Openings } from '../openings.ts';

/**
 * The latest start of each task by the due dates of all that hangs on it, less the work and the waits in between: what
 * is soonest is most urgent. Work is stretched by how much of the time its calendar is open. Where nothing is due, what
 * has more before it comes first; a maximum wait after something fixed is as binding as a due date.
 */
export function latestStarts(compiled: Compiled): Float64Array {
  const { tasks, out, order, problem } = compiled;
  const shares = new Map<Openings, number>();
  const shareOf = (open: Openings) => {
    if (!shares.has(open)) shares.set(open, Math.max(0.01, shareOpen(open).share));
    return shares.get(open)!;
  };
  const latest = new Float64Array(tasks.length);
  for (let i = order.length - 1; i >= 0; i--) {
    const task = tasks[order[i]!]!;
    const byClock = task.spans === 'pausing' ? task.duration / shareOf(task.open) : task.duration;
    let end = problem.jobs[task.job]!.due ?? 2 * LAST_MINUTE;
    for (const { to, minLag } of out[task.place]!) end = Math.min(end, latest[to]! - minLag);
    latest[task.place] = end - byClock;
  }
  for (const task of tasks) {
    if (task.fixed === null) continue;
    const end = endOf(task.open, task.spans, task.fixed, task.duration);
    for (const { to, maxLag } of out[task.place]!) latest[to] = Math.min(latest[to]!, end + maxLag);
  }
  return latest;
}
