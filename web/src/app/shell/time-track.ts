import type { Instant } from '@kalvet/core';
import { formatWall, toMs, wallMsOf } from '@kalvet/core';
import { scaleLinear, utcHour } from 'd3';

const HOUR_MS = 3_600_000;
/** What was, and what is to come, on the axis that air and trees share, hours. */
const [BACK, AHEAD] = [14, 34];
/** A mark each so many hours. */
const EVERY = 6;

/** The axis of time that the air and all trees share: places from 0 to 100. */
export interface TimeTrack {
  readonly from: number;
  readonly until: number;
  readonly x: (instant: Instant) => number;
  readonly now: number;
  readonly marks: readonly { readonly x: number; readonly label: string; readonly isDay: boolean }[];
}

/** An axis around a moment, by the shop's clock. */
export function timeTrack(now: Instant, zone: string): TimeTrack {
  const [from, until] = [toMs(now) - BACK * HOUR_MS, toMs(now) + AHEAD * HOUR_MS];
  const scale = scaleLinear([from, until], [0, 100]).clamp(true);
  // The clock on the wall is so far ahead of the one the instants are in.
  const ahead = wallMsOf(now, zone) - toMs(now);
  const marks = utcHour
    .every(EVERY)!
    .range(new Date(from + ahead), new Date(until + ahead))
    .map((wall) => {
      const wallMs = wall.getTime();
      const isDay = wall.getUTCHours() === 0;
      const label = isDay ? formatWall(wallMs, 'weekday') : formatWall(wallMs, 'hour').slice(-5);
      return { x: scale(wallMs - ahead), label, isDay };
    });
  // What would run into the edge is left out.
  const clear = marks.filter(({ x, isDay }) => x > 3 && x < (isDay ? 91 : 95));
  return { from, until, x: (instant) => scale(toMs(instant)), now: scale(toMs(now)), marks: clear };
}
