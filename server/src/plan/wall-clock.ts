import type { Day, Instant } from '@kalvet/core';
import { DAY_MIN, addDays, daysBetween } from '@kalvet/core';
import { DateTime } from 'luxon';

/**
 * Between instants and plan minutes: wall-clock minutes in the shop's time zone since 00:00 of a day, every day 1440 of
 * them. The one place that converts; an hour that a change of clocks leaves out or repeats is taken as the first of both.
 */
export class WallClock {
  readonly startDay: Day;
  private readonly days = new Map<number, { ms: number; even: boolean }>();

  constructor(
    now: Instant,
    private readonly zone: string,
  ) {
    this.startDay = DateTime.fromISO(now, { zone }).toISODate()!;
  }

  /** The plan minute of an instant, rounded down. */
  minuteOf = (instant: Instant): number => {
    const local = DateTime.fromISO(instant, { zone: this.zone });
    // By the calendar, not by hours: where the clocks change at midnight a day begins at one.
    return daysBetween(this.startDay, local.toISODate()!) * DAY_MIN + local.hour * 60 + local.minute;
  };

  /** The instant of a plan minute. */
  instantOf = (minute: number): Instant => {
    const day = Math.floor(minute / DAY_MIN);
    const ofDay = minute - day * DAY_MIN;
    const known = this.days.get(day) ?? this.readDay(day);
    if (known.even) return new Date(known.ms + ofDay * 60_000).toISOString();
    return DateTime.fromISO(`${addDays(this.startDay, day)}T00:00`, { zone: this.zone })
      .set({ hour: Math.floor(ofDay / 60), minute: ofDay % 60 })
      .toUTC()
      .toISO()!;
  };

  /** The calendar day of a plan minute. */
  dayOf = (minute: number): Day => addDays(this.startDay, Math.floor(minute / DAY_MIN));

  private readDay(day: number): { ms: number; even: boolean } {
    const at = DateTime.fromISO(addDays(this.startDay, day), { zone: this.zone });
    const even = at.hour === 0 && at.offset === at.plus({ days: 1 }).offset;
    const known = { ms: at.toMillis(), even };
    this.days.set(day, known);
    return known;
  }
}
