const MONTHS = ['jan', 'feb', 'mar', 'apr', 'may', 'jun', 'jul', 'aug', 'sep', 'oct', 'nov', 'dec'];
const WEEKDAYS = ['sun', 'mon', 'tue', 'wed', 'thu', 'fri', 'sat'];
const RELATIVE: Readonly<Record<string, number>> = { today: 0, tomorrow: 1, yesterday: -1 };

/** How a day and time are read. */
export interface ReadingWhen {
  /** The present moment, as a picker has it: local fields read as the shop's clock. */
  readonly now: Date;
  /** Whether a time belongs to it. */
  readonly time: boolean;
  /** Which way a day without its year, or a weekday, is meant: done lies behind, planned ahead. */
  readonly towards: 'past' | 'future';
}

/**
 * Reads a day, with its time where one belongs to it, as people write them: `24 Nov`, `Tue 24 Nov 2026, 10:40`, `24.11.`,
 * `24/11 9.30`, `2026-11-24`, `yesterday 16:00`, `Fri`, `8:30`. What is left out is the present year, the present day, and
 * of a time the present one.
 *
 * @returns undefined where it cannot be understood: nothing is guessed
 */
export function readWhen(given: string, { now, time, towards }: ReadingWhen): Date | undefined {
  const words = given
    .toLowerCase()
    .replace(/,/g, ' ')
    .replace(/\bat\b/g, ' ')
    .trim()
    .replace(/\s+/g, ' ');
  if (words === '') return undefined;
  const [dayWords, clock] = time ? splitTime(words) : [words, undefined];
  const day = dayWords === '' ? startOf(now) : dayOf(dayWords, now, towards);
  if (!day || clock === null) return undefined;
  if (time) day.setHours(clock?.[0] ?? now.getHours(), clock?.[1] ?? now.getMinutes());
  else day.setHours(12);
  return day;
}

const startOf = (at: Date): Date => new Date(at.getFullYear(), at.getMonth(), at.getDate());

type Clock = readonly [hours: number, minutes: number];

/** The time at the end, where there is one; null where it is no time of a day. */
function splitTime(words: string): [day: string, clock: Clock | null | undefined] {
  // `9.30` is a time only behind a day: by itself, and in front, `24.11` is a day.
  const found = /^(.*?)\s*\b(\d{1,2}):(\d{2})$/.exec(words) ?? /^(.*\S)\s+(\d{1,2})\.(\d{2})$/.exec(words);
  if (!found) return [words, undefined];
  const [hours, minutes] = [Number(found[2]), Number(found[3])];
  return [found[1]!.trim(), hours < 24 && minutes < 60 ? [hours, minutes] : null];
}

function dayOf(words: string, now: Date, towards: 'past' | 'future'): Date | undefined {
  const relative = RELATIVE[words];
  if (relative !== undefined) return moved(startOf(now), relative);
  const iso = /^(\d{4})-(\d{1,2})-(\d{1,2})$/.exec(words);
  if (iso) return exact(Number(iso[1]), Number(iso[2]), Number(iso[3]));
  const weekday = WEEKDAYS.indexOf(words.slice(0, 3));
  if (weekday >= 0 && /^[a-z]+$/.test(words)) {
    const ahead = (weekday - now.getDay() + 7) % 7;
    return moved(startOf(now), towards === 'future' ? ahead : ahead === 0 ? 0 : ahead - 7);
  }
  // A weekday in front of a date says nothing new.
  const rest = words.replace(/^(sun|mon|tue|wed|thu|fri|sat)[a-z]*\.? /, '');
  const named = /^(\d{1,2})(?:st|nd|rd|th|\.)? ([a-z]{3})[a-z]*\.?(?: (\d{2,4}))?$/.exec(rest);
  const numbers = /^(\d{1,2})[./](\d{1,2})[./]?(?:(\d{2,4}))?$/.exec(rest);
  const found = named ?? numbers;
  if (!found) return undefined;
  const month = named ? MONTHS.indexOf(named[2]!) + 1 : Number(found[2]);
  const year = found[3] === undefined ? undefined : Number(found[3].length === 2 ? `20${found[3]}` : found[3]);
  return year === undefined ? nearest(month, Number(found[1]), now, towards) : exact(year, month, Number(found[1]));
}

const moved = (day: Date, days: number): Date => new Date(day.getFullYear(), day.getMonth(), day.getDate() + days);

/** A day that exists. */
function exact(year: number, month: number, date: number): Date | undefined {
  const day = new Date(year, month - 1, date);
  return day.getMonth() === month - 1 && day.getDate() === date ? day : undefined;
}

/** Half a year off the other way it is meant of the year beside: in January, `20 Dec` was done last December. */
const FAR_DAYS = 183;

function nearest(month: number, date: number, now: Date, towards: 'past' | 'future'): Date | undefined {
  const day = exact(now.getFullYear(), month, date);
  if (!day) return undefined;
  const days = (day.getTime() - now.getTime()) / 86_400_000;
  if (towards === 'past' && days > FAR_DAYS) return exact(now.getFullYear() - 1, month, date);
  if (towards === 'future' && days < -FAR_DAYS) return exact(now.getFullYear() + 1, month, date);
  return day;
}
