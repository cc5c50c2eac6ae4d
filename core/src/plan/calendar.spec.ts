import fc from 'fast-check';
import { dateOf, dayNumber, weekday } from './dates.ts';
import { earliestStart, earliestStartToEnd, endOf, intersect, nextOpen, openingsOf } from './openings.ts';
import type { PlanCalendar, Spans } from './problem.ts';
import { SHOP } from '../testing/plan-parts.ts';

const MONDAY = dayNumber('2027-03-01')!;
const hhmm = (minute: number) =>
  `${String(Math.floor(minute / 60)).padStart(2, '0')}:${String(minute % 60).padStart(2, '0')}`;

describe('dates by number', () => {
  it('agree with the calendar, leap days and weekdays included', () => {
    for (const date of ['1970-01-01', '2000-02-29', '2024-12-31', '2027-03-01', '2100-03-01']) {
      const days = Date.parse(`${date}T00:00:00Z`) / 86_400_000;
      expect(dayNumber(date)).withContext(date).toBe(days);
      expect(dateOf(days)).toBe(date);
      expect(weekday(days)).toBe(new Date(`${date}T00:00:00Z`).getUTCDay() || 7);
    }
    for (const none of ['2027-02-29', '2100-02-29', '2027-13-01', '2027-3-1', ''])
      expect(dayNumber(none)).toBeUndefined();
  });
});

describe('opening times', () => {
  const open = openingsOf(SHOP, MONDAY);

  it('pause over the lunch break and the weekend, and end with the last open minute', () => {
    // 08:00 is 480; four hours end at noon, not after the break.
    expect(endOf(open, 'pausing', 480, 240)).toBe(720);
    expect(endOf(open, 'pausing', 480, 241)).toBe(751);
    // Friday 16:00 and an hour's work: half of it on Monday.
    const friday = 4 * 1440 + 960;
    expect(endOf(open, 'pausing', friday, 60)).toBe(7 * 1440 + 510);
    expect(endOf(open, 'through', friday, 600)).toBe(friday + 600);
    expect(earliestStart(open, 'unbroken', friday, 45)).toBe(7 * 1440 + 480);
    expect(earliestStart(open, 'through', friday + 40, 45)).toBe(7 * 1440 + 480);
  });

  it('close on closed days, open on extra ones, also on a closed date, and go on over midnight where they touch', () => {
    const night = openingsOf(
      {
        id: 'n',
        weekly: [
          { day: 1, from: '20:00', to: '24:00' },
          { day: 2, from: '00:00', to: '04:00' },
        ],
        closed: ['2027-03-08', '2027-03-09'],
        extra: [{ date: '2027-03-08', from: '10:00', to: '11:00' }],
      },
      MONDAY,
    );
    // Monday 20:00 to Tuesday 04:00 is one stretch, midnight in it too.
    expect([1200, 1440, 1679].map((minute) => nextOpen(night, minute))).toEqual([1200, 1440, 1679]);
    expect(nextOpen(night, 1680)).toBe(7 * 1440 + 600);
    expect(nextOpen(night, 7 * 1440 + 660)).toBe(14 * 1440 + 1200);
  });

  // A second reading of the format, minute by minute: slow and plain.
  it('agree with counting minutes one by one, whatever the hours', () => {
    const span = 9 * 1440;
    const windows = fc.array(
      fc.tuple(fc.integer({ min: 1, max: 7 }), fc.integer({ min: 0, max: 1430 }), fc.integer({ min: 1, max: 700 })),
      { minLength: 1, maxLength: 6 },
    );
    const calendar = (id: string, given: [number, number, number][]): PlanCalendar => ({
      id,
      weekly: given.map(([day, from, length]) => ({ day, from: hhmm(from), to: hhmm(Math.min(1440, from + length)) })),
    });
    const minutes = (given: [number, number, number][]) =>
      Array.from({ length: 60 * 1440 }, (_, minute) =>
        given.some(([day, from, length]) => {
          const ofDay = minute % 1440;
          return (Math.floor(minute / 1440) % 7) + 1 === day && from <= ofDay && ofDay < Math.min(1440, from + length);
        }),
      );
    fc.assert(
      fc.property(
        windows,
        windows,
        fc.integer({ min: 0, max: span }),
        fc.integer({ min: 0, max: 500 }),
        fc.constantFrom<Spans>('pausing', 'unbroken', 'through'),
        (one, other, minute, duration, spans) => {
          const both = intersect([openingsOf(calendar('a', one), MONDAY), openingsOf(calendar('b', other), MONDAY)]);
          const [a, b] = [minutes(one), minutes(other)];
          const isOpen = (at: number) => a[at]! && b[at]!;
          const all = (from: number, to: number) => {
            for (let at = from; at < to; at++) if (!isOpen(at)) return false;
            return true;
          };
          let start = minute;
          while (start < a.length && !(isOpen(start) && (spans !== 'unbroken' || all(start, start + duration))))
            start++;
          const found = earliestStart(both, spans, minute, duration);
          if (start >= a.length) return expect(found).toBeGreaterThanOrEqual(50 * 1440);
          expect(found).toBe(start);
          let end = start;
          if (spans === 'pausing') for (let left = duration; left > 0 && end < a.length; end++) if (isOpen(end)) left--;
          if (spans === 'pausing' && end < a.length) expect(endOf(both, spans, start, duration)).toBe(end);
          // The first start whose end is late enough: no earlier one is.
          const late = earliestStartToEnd(both, spans, end, duration);
          expect(endOf(both, spans, late, duration)).toBeGreaterThanOrEqual(end);
          expect(late).toBeLessThanOrEqual(start);
        },
      ),
      { numRuns: 60, seed: 7 },
    );
  });
});
