import { DateTime } from 'luxon';
import type { Day, Instant } from './instant.ts';
import { daysBetween } from './instant.ts';
import type { Units } from './system.ts';
import type { Reader } from './words.ts';

// The one shop clock: how an instant is printed, here and nowhere else, always in the shop's own zone (IANA name).

const local = (instant: Instant, zone: string): DateTime => DateTime.fromISO(instant, { zone, locale: 'en-GB' });
const noon = (day: Day): DateTime => DateTime.fromISO(day, { zone: 'utc', locale: 'en-GB' });

/** So many answers are kept of each: a shop's screens and plans ask for the same few thousand moments again and again. */
const MOST_KEPT = 20_000;

/** A function of texts that works each of them out once; what it kept is dropped when it is too much. */
function remembered<A extends readonly string[], V>(work: (...texts: A) => V): (...texts: A) => V {
  const known = new Map<string, V>();
  return (...texts) => {
    const key = texts.join('|');
    const found = known.get(key) ?? work(...texts);
    if (known.size >= MOST_KEPT) known.clear();
    known.set(key, found);
    return found;
  };
}

/** The calendar day of an instant in a zone. */
export const dayIn: (instant: Instant, zone: string) => Day = remembered(
  (instant, zone) => local(instant, zone).toISODate() ?? instant.slice(0, 10),
);

/** `Fri`. */
export const formatWeekday = (day: Day): string => noon(day).toFormat('ccc');

/** `Fri 14 May`, and `Sun 14 May 2028` in another year than the present one of the shop. */
export const formatDay: (day: Day, today: Day) => string = remembered((day, today) =>
  noon(day).toFormat(day.slice(0, 4) === today.slice(0, 4) ? 'ccc d LLL' : 'ccc d LLL yyyy'),
);

/** `10:40` in a zone. */
export const formatTime: (instant: Instant, zone: string) => string = remembered((instant, zone) =>
  local(instant, zone).toFormat('HH:mm'),
);

/** `Fri 14 May 2027, 10:40`. */
export const formatInstant = (instant: Instant, zone: string): string =>
  local(instant, zone).toFormat('ccc d LLL yyyy, HH:mm');

const NEAR: Readonly<Record<number, string>> = { [-1]: 'yesterday', 0: 'today', 1: 'tomorrow' };

/** As a person says it: `10:40 today`, `10:40 yesterday`, beyond these `Fri 14 May 10:40`. */
export function formatWhen(instant: Instant, today: Day, zone: string): string {
  const day = dayIn(instant, zone);
  const time = formatTime(instant, zone);
  const near = NEAR[daysBetween(today, day)];
  return near ? `${time} ${near}` : `${formatDay(day, today)} ${time}`;
}

/** A planned moment, only as exact as a plan is: by the hour today and tomorrow, beyond these the day. */
export function formatPlanned(instant: Instant, today: Day, zone: string): string {
  const day = dayIn(instant, zone);
  return NEAR[daysBetween(today, day)] ? formatWhen(instant, today, zone) : formatDay(day, today);
}

/** What a clock on the wall of the shop shows at an instant. */
export interface WallTime {
  readonly day: Day;
  readonly hour: number;
  readonly minute: number;
}

/** The shop's clock at an instant. */
export function wallTimeOf(instant: Instant, zone: string): WallTime {
  const { hour, minute } = local(instant, zone);
  return { day: dayIn(instant, zone), hour, minute };
}

/**
 * The instant at which the shop's clock shows a time. Where the clock shows it twice, the earlier one; where it never shows
 * it, because it was put forward over it, so much later.
 */
export function instantAt({ day, hour, minute }: WallTime, zone: string): Instant {
  const [year, month, date] = day.split('-').map(Number);
  const found = DateTime.fromObject({ year: year!, month: month!, day: date!, hour, minute }, { zone });
  const first = found.getPossibleOffsets().reduce((one, other) => (other < one ? other : one), found);
  return first.toUTC().toISO() ?? `${day}T00:00:00.000Z`;
}

/** What the shop's clock shows, as milliseconds of a clock that never changes: drawings have an axis of such. */
export const wallMsOf: (instant: Instant, zone: string) => number = remembered((instant, zone) => {
  const at = local(instant, zone);
  return at.toMillis() + at.offset * 60_000;
});

const WALL = { hour: 'ccc d LLL HH:mm', weekday: 'ccc d LLL', year: 'd LLL yyyy' };

/** A place on such an axis, as it is written at its mark. */
export const formatWall = (wallMs: number, detail: keyof typeof WALL): string =>
  DateTime.fromMillis(wallMs, { zone: 'utc', locale: 'en-GB' }).toFormat(WALL[detail]);

/** Who reads words in these units by the shop's clock; with the present day of the shop, as a person says it. */
export const shopReader = (zone: string, units: Units, today?: Day): Reader => ({
  units,
  instant: (instant) => (today === undefined ? formatInstant(instant, zone) : formatWhen(instant, today, zone)),
  day: (day) => formatDay(day, today ?? ''),
});
