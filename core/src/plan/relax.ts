import type { Arc, Compiled, Task } from './compile.ts';
import { earliestStart, earliestStartToEnd, endOf } from './openings.ts';
import { LAST_MINUTE } from './problem.ts';

/** Where the relaxation ran into something that cannot be: a task by itself, or the arc whose lag cannot be kept. */
export interface Impossible {
  readonly task: number;
  readonly arc: Arc | null;
}

export interface Relaxed {
  /** No schedule can start a task earlier than this: links, lags and calendars are kept, capacities are left out. */
  readonly starts: Float64Array;
  readonly impossible: Impossible | null;
}

export interface RelaxOptions {
  /** Arcs that are left out. */
  readonly without?: ReadonlySet<Arc>;
  /** Only these tasks, and the arcs between them. */
  readonly within?: ReadonlySet<number>;
  /** Nothing may pass this minute. */
  readonly limit?: number;
}

/** The longest duration that a task may have to run for: in a load it runs as long as its longest mate. */
export function longestDurations({ tasks }: Compiled): Float64Array {
  const byGroup = new Map<string, number>();
  const group = (task: Task) => `${task.batch!.resource} ${task.batch!.key ?? ''} ${task.batch!.key === undefined}`;
  for (const task of tasks)
    if (task.batch) byGroup.set(group(task), Math.max(byGroup.get(group(task)) ?? 0, task.duration));
  return Float64Array.from(tasks, (task) => (task.batch ? byGroup.get(group(task))! : task.duration));
}

/**
 * The earliest start of every task by links, lags and calendars alone: the least fixed point of "not before what comes
 * before allows" and "not so early that what comes after would be too late". Each bound only ever rises, so a bound that
 * passes the last minute, or a fixed start, proves that there is no schedule at all.
 */
export function relax(compiled: Compiled, { without, within, limit = LAST_MINUTE }: RelaxOptions = {}): Relaxed {
  const { tasks, into, out, order } = compiled;
  const longest = longestDurations(compiled);
  const starts = new Float64Array(tasks.length);
  const ends = new Float64Array(tasks.length);
  const queued = new Uint8Array(tasks.length);
  const kept = (arc: Arc) =>
    !without?.has(arc) && (within === undefined || (within.has(arc.from) && within.has(arc.to)));
  /** False where the task cannot start at or after the minute. */
  const raise = (task: Task, minute: number): boolean => {
    const start = earliestStart(task.open, task.spans, minute, task.duration);
    starts[task.place] = start;
    ends[task.place] = endOf(task.open, task.spans, start, task.duration);
    return ends[task.place]! <= limit;
  };
  const queue: number[] = [];
  for (const place of order) {
    if (within && !within.has(place)) continue;
    const task = tasks[place]!;
    if (task.fixed !== null) {
      starts[place] = task.fixed;
      ends[place] = endOf(task.open, task.spans, task.fixed, task.duration);
      if (ends[place]! > limit) return { starts, impossible: { task: place, arc: null } };
    } else if (!raise(task, task.earliest)) return { starts, impossible: { task: place, arc: null } };
    queue.push(place);
    queued[place] = 1;
  }
  for (let at = 0; at < queue.length; at++) {
    const place = queue[at]!;
    queued[place] = 0;
    const push = (other: number) => {
      if (queued[other]) return;
      queued[other] = 1;
      queue.push(other);
    };
    for (const arc of out[place]!) {
      if (!kept(arc) || ends[place]! + arc.minLag <= starts[arc.to]!) continue;
      if (!raise(tasks[arc.to]!, ends[place]! + arc.minLag)) return { starts, impossible: { task: arc.to, arc } };
      push(arc.to);
    }
    for (const arc of into[place]!) {
      if (arc.maxLag === Infinity || !kept(arc)) continue;
      const before = tasks[arc.from]!;
      const end = starts[place]! - arc.maxLag;
      if (latestEnd(before, starts[arc.from]!, longest) >= end) continue;
      if (before.fixed !== null) return { starts, impossible: { task: place, arc } };
      const minute =
        before.spans === 'pausing'
          ? earliestStartToEnd(before.open, 'pausing', end, longest[arc.from]!)
          : end - longest[arc.from]!;
      if (!raise(before, Math.max(minute, starts[arc.from]! + 1)))
        return { starts, impossible: { task: arc.from, arc } };
      push(arc.from);
    }
    // The queue is read from its front; what has been read is let go now and then.
    if (at > 100_000) {
      queue.splice(0, at + 1);
      at = -1;
    }
  }
  return { starts, impossible: null };
}

const latestEnd = (task: Task, start: number, longest: Float64Array): number =>
  endOf(task.open, task.spans, start, longest[task.place]!);
