import type { Instant } from '../units/instant.ts';
import { MINUTE_MS, toMs } from '../units/instant.ts';

/** What a thermocouple read. */
export interface KilnReading {
  readonly at: Instant;
  readonly celsius: number;
}

/** Within so many K of the hold's temperature it counts as held. Source: handbook 2.5; the shop's figure. */
export const HOLD_WITHIN_K = 15;
/** Readings farther apart than this say nothing of what lay between. */
const GAP_MIN = 20;

/**
 * How many minutes a kiln was at a hold's temperature, between the readings by a straight line.
 * @param readings of one thermocouple, in the order of time; @param holdC what was to be held; @param withinK how near
 */
export function heldMinutes(readings: readonly KilnReading[], holdC: number, withinK = HOLD_WITHIN_K): number {
  let held = 0;
  for (let i = 1; i < readings.length; i++) {
    const [a, b] = [readings[i - 1]!, readings[i]!];
    const minutes = (toMs(b.at) - toMs(a.at)) / MINUTE_MS;
    if (minutes > 0 && minutes <= GAP_MIN) held += minutes * shareWithin(a.celsius - holdC, b.celsius - holdC, withinK);
  }
  return held;
}

/** The share of a straight line from one value to another that lies within a band about nothing. */
function shareWithin(from: number, to: number, within: number): number {
  if (from === to) return Math.abs(from) <= within ? 1 : 0;
  const at = (value: number) => Math.min(1, Math.max(0, (value - from) / (to - from)));
  return Math.abs(at(within) - at(-within));
}

/** How a hold came out. */
export interface HoldVerdict {
  readonly heldMinutes: number;
  /** Of what was planned so many minutes are missing; none where it was held long enough. */
  readonly shortMinutes: number;
}

/** Whether a hold was long enough, at the thermocouple that held the shortest: all of the load must have had it. */
export function judgeHold(
  couples: readonly (readonly KilnReading[])[],
  plan: { readonly holdC: number; readonly minutes: number },
  withinK = HOLD_WITHIN_K,
): HoldVerdict {
  const held = Math.min(...couples.map((readings) => heldMinutes(readings, plan.holdC, withinK)));
  const shortest = Number.isFinite(held) ? held : 0;
  return { heldMinutes: shortest, shortMinutes: Math.max(0, plan.minutes - shortest) };
}

/** How far the coldest thermocouple lay behind the warmest at most, K: a load that is packed too tightly. */
export function coldestLag(couples: readonly (readonly KilnReading[])[]): number {
  const [first = [], ...others] = couples;
  return first.reduce((most, { at, celsius }) => {
    const all = [celsius, ...others.flatMap((readings) => valueAt(readings, at) ?? [])];
    return Math.max(most, Math.max(...all) - Math.min(...all));
  }, 0);
}

/** What a thermocouple reads at a moment, between its readings; nothing beyond them. */
function valueAt(readings: readonly KilnReading[], at: Instant): number | undefined {
  const next = readings.findIndex((reading) => reading.at >= at);
  if (next < 0) return undefined;
  const b = readings[next]!;
  if (b.at === at || next === 0) return b.at === at ? b.celsius : undefined;
  const a = readings[next - 1]!;
  const share = (toMs(at) - toMs(a.at)) / (toMs(b.at) - toMs(a.at));
  return a.celsius + (b.celsius - a.celsius) * share;
}
