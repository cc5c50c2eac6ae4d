import type { ClimateReading } from '../records/climate.ts';
import { addMinutes, fromMs, toMs } from '../units/instant.ts';
import { dryingAir } from './drying-air.ts';
import { REFERENCE_K } from './dried-share.ts';
import type { Stay } from './drying-course.ts';
import { dryingCourse } from './drying-course.ts';
import { learnedDrying } from './learned-drying.ts';
import { worthKeeping } from './thin-climate.ts';

const DIP = toMs('2027-03-01T08:00:00.000Z');
const HOUR = 3_600_000;
const reading = (hours: number, celsius: number, humidityPercent: number): ClimateReading => ({
  at: fromMs(DIP + hours * HOUR),
  celsius,
  humidityPercent,
});
const stay = (readings: readonly ClimateReading[], sinceHours = -1, airflow = 1): Stay => ({
  sinceMs: DIP + sinceHours * HOUR,
  air: dryingAir(readings, [])!,
  airflow,
});
const ROOM = stay([reading(-2, 22, 50)]);
/** Four hours at 22 °C and 50 %. */
const FOUR_HOURS = 4 * REFERENCE_K;
const hours = (ms: number | null | undefined) => (ms === null || ms === undefined ? Infinity : (ms - DIP) / HOUR);

describe('how a coat dries', () => {
  it('adds up over the places it hangs in: two hours in the room, then in a cabinet with four times the draught', () => {
    const course = dryingCourse(FOUR_HOURS, DIP, [ROOM, stay([reading(-2, 22, 50)], 2, 0.5)])!;
    // Half is left, and goes twice as fast.
    expect(course.shareAt(DIP + 2 * HOUR)).toBeCloseTo(0.5, 3);
    expect(hours(course.dryMs)).toBeCloseTo(3, 2);
  });

  it('is dry when somebody found it dry, before the sum says so', () => {
    const course = dryingCourse(FOUR_HOURS, DIP, [ROOM], [{ ms: DIP + 3 * HOUR, dry: true, share: null }])!;
    expect(hours(course.dryMs)).toBe(3);
    expect(course.shareAt(DIP + 3 * HOUR)).toBe(1);
  });

  it('is not dry where somebody found it wet, whatever the sum says, and goes on as slowly as it went', () => {
    const course = dryingCourse(FOUR_HOURS, DIP, [ROOM], [{ ms: DIP + 6 * HOUR, dry: false, share: null }])!;
    // Nine tenths in six hours: the last tenth takes 40 minutes.
    expect(course.shareAt(DIP + 6 * HOUR)).toBeCloseTo(0.9, 6);
    expect(hours(course.dryMs)).toBeCloseTo(6 + 6 / 9, 2);
    const told = dryingCourse(FOUR_HOURS, DIP, [ROOM], [{ ms: DIP + 2 * HOUR, dry: false, share: 0.25 }])!;
    expect(hours(told.dryMs)).toBeCloseTo(8, 2);
    // Wet at first, dry later: the later look counts.
    const both = dryingCourse(
      FOUR_HOURS,
      DIP,
      [ROOM],
      [
        { ms: DIP + 6 * HOUR, dry: false, share: null },
        { ms: DIP + 6.25 * HOUR, dry: true, share: null },
      ],
    )!;
    expect(hours(both.dryMs)).toBe(6.25);
  });

  it('says nothing of a dip that lies before the first reading', () => {
    expect(dryingCourse(FOUR_HOURS, DIP - 5 * HOUR, [ROOM])).toBeNull();
  });

  it('expects the same hours of the last three days: damp nights, dry afternoons', () => {
    const days = Array.from({ length: 96 }, (_, i) => {
      const hour = (8 + i) % 24;
      return reading(i - 96, 22, hour >= 10 && hour < 18 ? 50 : 80);
    });
    const air = dryingAir(days)!;
    const course = dryingCourse(FOUR_HOURS, DIP, [{ sinceMs: 0, air, airflow: 1 }])!;
    // Two damp hours at 2.46 K, then 6.51 K: what is left of 26.04 K·h after 4.93 takes 3.24 h more.
    expect(hours(course.dryMs)).toBeCloseTo(2 + (26.04 - 2 * 2.455) / 6.51, 1);
  });
});

describe('what the shop’s own readings say of its reference time', () => {
  const look = (stepId: string, dry: boolean, formulaShare: number | null) => ({
    ...{ stepId, dry, formulaShare, voidReason: null },
  });

  it('lies between wet and dry, weighed n/(n + 3) against 1', () => {
    expect(learnedDrying([])).toEqual({ factor: 1, n: 0 });
    const coats = ['a', 'b', 'c'].flatMap((id) => [look(id, false, 1.2), look(id, true, 1.6)]);
    // Each says 1.4; three of them against three.
    expect(learnedDrying(coats).factor).toBeCloseTo(1.2, 9);
    expect(learnedDrying(coats).n).toBe(3);
  });

  it('learns nothing of a coat that was only looked at long after it was dry', () => {
    expect(learnedDrying([look('a', true, 2.6), look('b', false, 0.9), look('b', true, 5)]).n).toBe(0);
    expect(learnedDrying([look('a', true, 0.6)]).factor).toBeCloseTo((0.6 + 3) / 4, 9);
    expect(learnedDrying([{ ...look('a', false, 2), voidReason: 'wrong tree' }]).n).toBe(0);
  });
});

describe('what is kept of a sensor that speaks each minute', () => {
  it('is one in a quarter of an hour, and a change at once', () => {
    const first = reading(0, 22, 50);
    const later = (minutes: number, celsius: number, percent: number) => ({
      at: addMinutes(first.at, minutes),
      celsius,
      humidityPercent: percent,
    });
    expect(worthKeeping(first, undefined)).toBeTrue();
    expect(worthKeeping(later(5, 22.2, 51), first)).toBeFalse();
    expect(worthKeeping(later(5, 22.5, 50), first)).toBeTrue();
    expect(worthKeeping(later(5, 22, 53), first)).toBeTrue();
    expect(worthKeeping(later(15, 22, 50), first)).toBeTrue();
  });
});
