import { DAY_MIN } from '../units/instant.ts';
import { dayNumber, minuteOfDay, weekday } from './dates.ts';
import type { PlanCalendar, Spans } from './problem.ts';
import { LAST_MINUTE } from './problem.ts';

/**
 * When something is open: stretches `[from, to)` in order, neither overlapping nor touching, with the open minutes that lie
 * before each. `null` is open every minute.
 */
export interface Stretches {
  readonly from: Float64Array;
  readonly to: Float64Array;
  readonly before: Float64Array;
  /** For each day from `firstDay` on the first stretch that ends after the day has begun. */
  readonly firstDay: number;
  readonly byDay: Int32Array;
}
export type Openings = Stretches | null;

type Pair = [from: number, to: number];

/** Stretches of open minutes, those that touch united. */
export function stretches(pairs: Pair[]): Stretches {
  pairs.sort((a, b) => a[0] - b[0]);
  const united: Pair[] = [];
  for (const [from, to] of pairs) {
    const last = united.at(-1);
    if (last && from <= last[1]) last[1] = Math.max(last[1], to);
    else united.push([from, to]);
  }
  const [starts, ends, before] = [0, 0, 0].map(() => new Float64Array(united.length)) as [
    Float64Array,
    Float64Array,
    Float64Array,
  ];
  let open = 0;
  united.forEach(([from, to], i) => {
    starts[i] = from;
    ends[i] = to;
    before[i] = open;
    open += to - from;
  });
  return { from: starts, to: ends, before, ...daysOf(ends, starts[0] ?? 0) };
}

/** The table of days: looking something up takes the same time however far away it is. */
function daysOf(ends: Float64Array, first: number): { firstDay: number; byDay: Int32Array } {
  const firstDay = Math.floor(first / DAY_MIN);
  const days = Math.max(0, Math.floor((ends.at(-1) ?? 0) / DAY_MIN) - firstDay + 1);
  const byDay = new Int32Array(days);
  for (let day = 0, i = 0; day < days; day++) {
    while (i < ends.length && ends[i]! <= (firstDay + day) * DAY_MIN) i++;
    byDay[day] = i;
  }
  return { firstDay, byDay };
}

/**
 * A calendar's openings from the day of `low` (≤ 0, whole days) to the last minute of the format.
 * @param startDay day number of the problem's start
 */
export function openingsOf(calendar: PlanCalendar, startDay: number, low = 0): Openings {
  if (calendar.always) return null;
  const closed = new Set((calendar.closed ?? []).map((date) => dayNumber(date)! - startDay));
  const byDay: Pair[][] = Array.from({ length: 8 }, () => []);
  for (const { day, from, to } of calendar.weekly ?? []) byDay[day]!.push([minuteOfDay(from)!, minuteOfDay(to)!]);
  const pairs: Pair[] = [];
  const firstDay = Math.floor(low / DAY_MIN);
  const lastDay = Math.ceil(LAST_MINUTE / DAY_MIN);
  for (let day = firstDay; day <= lastDay; day++) {
    if (closed.has(day)) continue;
    for (const [from, to] of byDay[weekday(startDay + day)]!) pairs.push([day * DAY_MIN + from, day * DAY_MIN + to]);
  }
  for (const { date, from, to } of calendar.extra ?? []) {
    const day = dayNumber(date)! - startDay;
    if (day >= firstDay && day <= lastDay)
      pairs.push([day * DAY_MIN + minuteOfDay(from)!, day * DAY_MIN + minuteOfDay(to)!]);
  }
  return stretches(pairs);
}

/** Minutes that are open in every one of them. */
export function intersect(all: readonly Openings[]): Openings {
  return all.reduce<Openings>((one, other) => {
    if (one === null) return other;
    if (other === null || other === one) return one;
    const pairs: Pair[] = [];
    for (let i = 0, j = 0; i < one.from.length && j < other.from.length;) {
      const from = Math.max(one.from[i]!, other.from[j]!);
      const to = Math.min(one.to[i]!, other.to[j]!);
      if (from < to) pairs.push([from, to]);
      if (one.to[i]! < other.to[j]!) i++;
      else j++;
    }
    return stretches(pairs);
  }, null);
}

/** The first stretch that ends after a minute; the number of stretches where there is none. */
function stretchAt({ to, firstDay, byDay }: Stretches, minute: number): number {
  const day = Math.floor(minute / DAY_MIN) - firstDay;
  if (day < 0) return 0;
  if (day >= byDay.length) return to.length;
  let i = byDay[day]!;
  while (i < to.length && to[i]! <= minute) i++;
  return i;
}

/** The first open minute at or after one; Infinity where there is none. */
export function nextOpen(open: Openings, minute: number): number {
  if (open === null) return minute;
  const i = stretchAt(open, minute);
  return i === open.to.length ? Infinity : Math.max(minute, open.from[i]!);
}

/** Open minutes before a minute, counted from the first stretch. */
function openBefore(open: Stretches, minute: number): number {
  const i = stretchAt(open, minute);
  if (i === open.to.length) {
    const last = i - 1;
    return last < 0 ? 0 : open.before[last]! + open.to[last]! - open.from[last]!;
  }
  return open.before[i]! + Math.max(0, minute - open.from[i]!);
}

/** Open minutes from one minute to another. */
export const openBetween = (open: Openings, from: number, to: number): number =>
  open === null ? to - from : openBefore(open, to) - openBefore(open, from);

/** Work that ends within so many stretches is followed from one to the next, which is quicker than halving. */
const FEW_STRETCHES = 12;

/** Where `duration` open minutes after `start` have passed; Infinity where there are not so many. */
function afterOpenMinutes(open: Stretches, start: number, duration: number): number {
  if (duration === 0) return start;
  const { from, to, before } = open;
  const first = stretchAt(open, start);
  if (first === to.length) return Infinity;
  const wanted = before[first]! + Math.max(0, start - from[first]!) + duration;
  for (let i = first; i < to.length && i < first + FEW_STRETCHES; i++) {
    const end = from[i]! + wanted - before[i]!;
    if (end <= to[i]!) return end;
  }
  let low = first;
  let high = before.length;
  // The last stretch with fewer than the wanted open minutes before it.
  while (low < high) {
    const middle = (low + high) >> 1;
    if (before[middle]! < wanted) low = middle + 1;
    else high = middle;
  }
  const i = low - 1;
  const end = from[i]! + wanted - before[i]!;
  return end <= to[i]! ? end : Infinity;
}

/** When a task that starts at a minute ends. Whether it may start there is another question (`earliestStart`). */
export function endOf(open: Openings, spans: Spans, start: number, duration: number): number {
  if (open === null || spans !== 'pausing') return start + duration;
  return afterOpenMinutes(open, start, duration);
}

/** The first minute at or after one where a task may start by its spans; Infinity where there is none. */
export function earliestStart(open: Openings, spans: Spans, minute: number, duration: number): number {
  if (open === null) return minute;
  if (spans !== 'unbroken') return nextOpen(open, minute);
  for (let i = stretchAt(open, minute); i < open.to.length; i++) {
    const start = Math.max(minute, open.from[i]!);
    if (start + duration <= open.to[i]! && start < open.to[i]!) return start;
  }
  return Infinity;
}

/** The first minute where a task may start so that it ends at or after one. */
export function earliestStartToEnd(open: Openings, spans: Spans, end: number, duration: number): number {
  if (open === null || spans !== 'pausing') return earliestStart(open, spans, end - duration, duration);
  const wanted = openBefore(open, end) - duration;
  const at = wanted <= 0 ? (open.from[0] ?? Infinity) : afterOpenMinutes(open, open.from[0] ?? Infinity, wanted);
  const start = earliestStart(open, spans, Math.min(at, end), duration);
  return start === Infinity || endOf(open, spans, start, duration) >= end
    ? start
    : earliestStart(open, spans, start + 1, duration);
}

/** What was worked out of a list before: thousands of tasks share a handful of lists, which never change. */
const shares = new WeakMap<Stretches, { readonly longest: number; readonly share: number }>();

/** The longest stretch, and how much of its time is open, for what cannot fit and for how long work takes by the clock. */
export function shareOpen(open: Openings): { readonly longest: number; readonly share: number } {
  if (open === null) return { longest: Infinity, share: 1 };
  const known = shares.get(open);
  if (known) return known;
  let longest = 0;
  for (let i = 0; i < open.from.length; i++) longest = Math.max(longest, open.to[i]! - open.from[i]!);
  const weeks = 8 * 7 * DAY_MIN;
  const found = { longest, share: (openBefore(open, weeks) - openBefore(open, 0)) / weeks };
  shares.set(open, found);
  return found;
}

const longestKnown = new WeakMap<object, number>();

/** The longest stretch of weekly hours in minutes, over midnight where windows touch; closed and extra days left out. */
export function longestOpen(weekly: NonNullable<PlanCalendar['weekly']>): number {
  const known = longestKnown.get(weekly);
  if (known !== undefined) return known;
  // Day 0 of the calendar arithmetic is a Thursday; any eight weeks do.
  const longest = Math.min(LAST_MINUTE, shareOpen(openingsOf({ id: '', weekly }, 0)).longest);
  longestKnown.set(weekly, longest);
  return longest;
}
