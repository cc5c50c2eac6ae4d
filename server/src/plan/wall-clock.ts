import type { Day, Instant } from '@kalvet/core';
import { DateTime } from 'luxon';

const DAY_MIN = 1440;

/**
 * Between instants and plan minutes: wall-clock minutes in the shop's time zone since 00:00 of a day, every day 1440 of
 * them. The one place that converts; an hour that a change of clocks leaves out or repeats is taken as the first of both.
 */
export class WallClock {
  readonly startDay: Day;
  private readonly start: DateTime;
  private readonly days = new Map<number, { ms: number; even: boolean }>();

  constructor(
    now: Instant,
    private readonly zone: string,
  ) {
    this.start = DateTime.fromISO(now, { zone }).startOf('day');
    this.startDay = this.start.toISODate()!;
  }

  /** The plan minute of an instant, rounded down. */
  minuteOf = (instant: Instant): number => {
    const local = DateTime.fromISO(instant, { zone: this.zone });
    const days = Math.round(
      local
        .startOf('day')
        .setZone('utc', { keepLocalTime: true })
        .diff(this.start.setZone('utc', { keepLocalTime: true }), 'days').days,
    );
    return days * DAY_MIN + local.hour * 60 + local.minute;
  };

  /** The instant of a plan minute. */
  instantOf = (minute: number): Instant => {
    const day = Math.floor(minute / DAY_MIN);
    const ofDay = minute - day * DAY_MIN;
    const known = this.days.get(day) ?? this.readDay(day);
    if (known.even) return new Date(known.ms + ofDay * 60_000).toISOString();
    return this.start
      .plus({ days: day })
      .set({ hour: Math.floor(ofDay / 60), minute: ofDay % 60 })
      .toUTC()
      .toISO()!;
  };

  /** The calendar day of a plan minute. */
  dayOf = (minute: number): Day => this.start.plus({ days: Math.floor(minute / DAY_MIN) }).toISODate()!;

  private readDay(day: number): { ms: number; even: boolean } {
    const at = this.start.plus({ days: day });
    const known = { ms: at.toMillis(), even: at.offset === at.plus({ days: 1 }).offset };
    this.days.set(day, known);
    return known;
  }
}
