/* eslint-disable no-restricted-globals -- parsing and printing given instants is pure; only asking for the present one is not. */
/** An instant, UTC, ISO 8601 with milliseconds: `2027-03-01T08:00:00.000Z`. */
export type Instant = string;
/** A calendar day in the shop's own time zone: `2027-03-01`. */
export type Day = string;

export const MINUTE_MS = 60_000;
export const HOUR_MIN = 60;
export const DAY_MIN = 1440;
/** Nothing is planned further ahead than this, in minutes: three years. What is set for later counts as not set. */
export const PLANNED_AHEAD_MINUTES = 3 * 365 * DAY_MIN;

/** Milliseconds since 1970 of an instant. @throws RangeError where it is no instant */
export function toMs(instant: Instant): number {
  const ms = Date.parse(instant);
  if (Number.isNaN(ms)) throw new RangeError(`not an instant: ${instant}`);
  return ms;
}

/** Whether a text says a moment at all. */
export const isMoment = (text: string): boolean => !Number.isNaN(Date.parse(text));

/** The instant of a number of milliseconds since 1970. */
export const fromMs = (ms: number): Instant => new Date(ms).toISOString();

/** The instant so many minutes after (or, negative, before) another. */
export const addMinutes = (instant: Instant, minutes: number): Instant => fromMs(toMs(instant) + minutes * MINUTE_MS);

/** Minutes from one instant to another; negative where the other lies before. */
export const minutesBetween = (from: Instant, to: Instant): number => (toMs(to) - toMs(from)) / MINUTE_MS;

/** A day as days since 1970. */
export const dayNumberOf = (day: Day): number => Math.round(toMs(`${day}T00:00:00.000Z`) / (DAY_MIN * MINUTE_MS));

/** Whole days from one day to another; negative where the other lies before. */
export const daysBetween = (from: Day, to: Day): number => dayNumberOf(to) - dayNumberOf(from);

/** The day so many days after another. */
export const addDays = (day: Day, days: number): Day =>
  fromMs((dayNumberOf(day) + days) * DAY_MIN * MINUTE_MS).slice(0, 10);

/** Days that follow one another as spans, from and until included; the earliest first. */
export function daySpans(days: readonly Day[]): { readonly from: Day; readonly until: Day }[] {
  const spans: { from: Day; until: Day }[] = [];
  for (const day of [...days].sort()) {
    const last = spans.at(-1);
    if (last && daysBetween(last.until, day) <= 1) last.until = day;
    else spans.push({ from: day, until: day });
  }
  return spans;
}

/** A span of minutes in shop words: `40 min`, `3 h 20 min`, `2 days 4 h`. */
export function spanInWords(minutes: number): string {
  const whole = Math.round(Math.abs(minutes));
  if (whole < HOUR_MIN) return `${whole} min`;
  if (whole < DAY_MIN) {
    const rest = whole % HOUR_MIN;
    return `${Math.floor(whole / HOUR_MIN)} h${rest ? ` ${rest} min` : ''}`;
  }
  const days = Math.floor(whole / DAY_MIN);
  const hours = Math.round((whole % DAY_MIN) / HOUR_MIN);
  return `${days} ${days === 1 ? 'day' : 'days'}${hours ? ` ${hours} h` : ''}`;
}
