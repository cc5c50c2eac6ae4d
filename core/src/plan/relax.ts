import type { Arc, Compiled, Task } from './compile.ts';
import { earliestStartToEnd, endOf } from './openings.ts';
import { LAST_MINUTE } from './problem.ts';
import { earliestOf } from './task-start.ts';

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
  /** Counts how often a bound was raised, for whoever has only so much time. */
  readonly effort?: { raised: number };
}

/** The longest duration that a task may have to run for: in a load it runs as long as its longest mate. */
export function longestDurations({ tasks }: Compiled): Float64Array {
  const byGroup = new Map<string, number>();
  const group = (task: Task) => `${task.batch!.resource} ${task.batch!.key ?? ''} ${task.batch!.key === undefined}`;
  for (const task of tasks)
    if (task.batch) byGroup.set(group(task), Math.max(byGroup.get(group(task)) ?? 0, task.duration));
  return Float64Array.from(tasks, (task) => (task.batch ? byGroup.get(group(task))! : task.duration));
}

const WEEK = 7 * 1440;

/** When a fixed task ends; −Infinity where it is not fixed. */
const fixedEnd = ({ open, spans, fixed, duration }: Task): number =>
  fixed === null ? -Infinity : endOf(open, spans, fixed, duration);

/**
 * Tells when bounds will rise without end. From some minute on all hours repeat by the week, and nothing but links between
 * the tasks of a group binds them: a schedule of the group could be moved a week earlier as long as it begins late enough.
 * So where all of its bounds have passed the first such week, there is none.
 */
class Endless {
  private readonly groups: Int32Array;
  private readonly below: Int32Array;
  private readonly until: Float64Array;

  constructor({ tasks, into, steadyFrom }: Compiled, kept: (arc: Arc) => boolean) {
    const groups = Int32Array.from(tasks, (_, place) => place);
    const root = (place: number): number => {
      while (groups[place] !== place) place = groups[place] = groups[groups[place]!]!;
      return place;
    };
    for (const arcs of into)
      for (const arc of arcs) if (tasks[arc.from]!.fixed === null && kept(arc)) groups[root(arc.to)] = root(arc.from);
    this.groups = groups.map((_, place) => root(place));
    this.below = new Int32Array(tasks.length);
    this.until = new Float64Array(tasks.length).fill(steadyFrom);
    for (const { place, earliest, fixed } of tasks) {
      const group = this.groups[place]!;
      if (fixed !== null) continue;
      this.below[group]!++;
      let from = earliest;
      for (const arc of into[place]!) if (kept(arc)) from = Math.max(from, fixedEnd(tasks[arc.from]!) + arc.minLag);
      this.until[group] = Math.max(this.until[group]!, from);
    }
    this.until = this.until.map((minute) => minute + WEEK);
  }

  /** Takes note of a bound that rose. @returns whether its group has no schedule */
  rose(place: number, from: number, to: number): boolean {
    const group = this.groups[place]!;
    const until = this.until[group]!;
    return from < until && to >= until && --this.below[group]! === 0;
  }
}

/**
 * The earliest start of every task by links, lags and calendars alone: the least fixed point of "not before what comes
 * before allows" and "not so early that what comes after would be too late". Each bound only ever rises, so a bound that
 * passes the last minute, or a fixed start, proves that there is no schedule at all; so do bounds that rise without end.
 */
export function relax(
  compiled: Compiled,
  { without, within, limit = LAST_MINUTE, effort }: RelaxOptions = {},
): Relaxed {
  const { tasks, into, out, order } = compiled;
  const longest = longestDurations(compiled);
  const starts = new Float64Array(tasks.length);
  const ends = new Float64Array(tasks.length);
  const queued = new Uint8Array(tasks.length);
  const kept = (arc: Arc) =>
    !without?.has(arc) && (within === undefined || (within.has(arc.from) && within.has(arc.to)));
  const endless = new Endless(compiled, kept);
  /** False where the task cannot start at or after the minute. */
  const raise = (task: Task, minute: number): boolean => {
    if (effort) effort.raised++;
    const before = starts[task.place]!;
    const start = earliestOf(task, minute, task.duration);
    starts[task.place] = start;
    ends[task.place] = endOf(task.open, task.spans, start, task.duration);
    return ends[task.place]! <= limit && !endless.rose(task.place, before, start);
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

const known = new WeakMap<Compiled, Relaxed>();

/** The relaxation of the whole problem, worked out once for all who ask. */
export function relaxed(compiled: Compiled): Relaxed {
  const found = known.get(compiled) ?? relax(compiled);
  known.set(compiled, found);
  return found;
}

const latestEnd = (task: Task, start: number, longest: Float64Array): number =>
  endOf(task.open, task.spans, start, longest[task.place]!);
