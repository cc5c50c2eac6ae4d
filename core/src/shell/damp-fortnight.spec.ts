// A fortnight in a damp room, minute by minute: dips by the clock that adds up against dips after fixed hours.
import type { ClimateReading } from '../records/climate.ts';
import { fromMs, toMs } from '../units/instant.ts';
import { REFERENCE_K } from './dried-share.ts';
import { dryingAir, thirstAt } from './drying-air.ts';
import { dryingCourse } from './drying-course.ts';
import { worthKeeping } from './thin-climate.ts';

const START = toMs('2027-03-01T06:00:00.000Z');
const MINUTE = 60_000;
const DAYS = 14;
const FOUR_HOURS = 4 * REFERENCE_K;

/** A room by the river: damp all the time, damper at night, with a dry day in each week. */
const truth: ClimateReading[] = Array.from({ length: DAYS * 1440 }, (_, i) => {
  const day = Math.floor(i / 1440);
  const night = Math.cos((i / 1440) * 2 * Math.PI);
  const damp = day % 7 === 3 ? 52 : 72;
  return { at: fromMs(START + i * MINUTE), celsius: 20.5 - 0.7 * night, humidityPercent: damp + 5 * night };
});
/** What a sensor's readings come to once they are thinned. */
const kept = truth.reduce<ClimateReading[]>((all, each) => {
  if (worthKeeping(each, all.at(-1))) all.push(each);
  return all;
}, []);
const real = dryingAir(truth, [])!;
const driedReally = (from: number, until: number) => (thirstAt(real, until) - thirstAt(real, from)) / FOUR_HOURS;

/** Dips one after another as soon as the rule lets them, and counts those on a coat that was still wet. */
function dips(next: (since: number) => number): {
  readonly count: number;
  readonly wet: number;
  readonly least: number;
} {
  let [at, count, wet, least] = [START + 60 * MINUTE, 0, 0, Infinity];
  for (;;) {
    const then = next(at);
    if (then >= START + (DAYS * 1440 - 1) * MINUTE) return { count, wet, least };
    const share = driedReally(at, then);
    count++;
    if (share < 0.99) wet++;
    least = Math.min(least, share);
    at = then;
  }
}

describe('a damp fortnight', () => {
  it('sees no dip on a wet coat where the clock adds up, and most of them after fixed hours', () => {
    const air = dryingAir(kept, [])!;
    const byClock = dips((since) => dryingCourse(FOUR_HOURS, since, [{ sinceMs: START, air, airflow: 1 }])!.dryMs!);
    const fixed = dips((since) => since + 240 * MINUTE);
    expect(byClock.wet).withContext(`driest share ${byClock.least}`).toBe(0);
    expect(byClock.least).toBeGreaterThan(0.99);
    expect(fixed.wet).toBeGreaterThan(fixed.count * 0.7);
    // Half as many dips, each of them dry.
    expect(byClock.count).toBeLessThan(fixed.count * 0.75);
  });

  it('keeps a tenth of what a sensor says', () => {
    expect(kept.length).toBeLessThan(truth.length / 10);
  });
});
