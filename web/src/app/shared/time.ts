import type { Day, Instant } from '@kalvet/core';

const parts = (instant: Instant, zone: string) => {
  const format = new Intl.DateTimeFormat('en-GB', {
    timeZone: zone,
    year: 'numeric',
    month: '2-digit',
    day: '2-digit',
    hour: '2-digit',
    minute: '2-digit',
    hourCycle: 'h23',
  });
  return Object.fromEntries(format.formatToParts(new Date(instant)).map(({ type, value }) => [type, value]));
};

/** The calendar day of an instant in a zone. */
export function dayIn(instant: Instant, zone: string): Day {
  const { year, month, day } = parts(instant, zone);
  return `${year}-${month}-${day}`;
}

const dayNumber = (day: Day): number => Date.parse(`${day}T00:00:00Z`) / 86_400_000;
const dayFormat = new Intl.DateTimeFormat('en-GB', { timeZone: 'UTC', day: 'numeric', month: 'short' });
const weekdayFormat = new Intl.DateTimeFormat('en-GB', { timeZone: 'UTC', weekday: 'short' });

/** `Fri`. */
export const formatWeekday = (day: Day): string => weekdayFormat.format(new Date(`${day}T12:00:00Z`));

/** `14 May`, and `14 May 2028` in another year than now's. */
export function formatDay(day: Day, now: Instant): string {
  const text = dayFormat.format(new Date(`${day}T12:00:00Z`));
  return day.slice(0, 4) === now.slice(0, 4) ? text : `${text} ${day.slice(0, 4)}`;
}

/** `10:40` in a zone. */
export function formatTime(instant: Instant, zone: string): string {
  const { hour, minute } = parts(instant, zone);
  return `${hour}:${minute}`;
}

/** `14 May 2027, 10:40`. */
export function formatInstant(instant: Instant, zone: string): string {
  const day = dayIn(instant, zone);
  return `${dayFormat.format(new Date(`${day}T12:00:00Z`))} ${day.slice(0, 4)}, ${formatTime(instant, zone)}`;
}

/** As a person says it: `10:40 today`, `10:40 yesterday`, `Fri 10:40` within six days, else with the date. */
export function formatWhen(instant: Instant, now: Instant, zone: string): string {
  const day = dayIn(instant, zone);
  const away = dayNumber(day) - dayNumber(dayIn(now, zone));
  const time = formatTime(instant, zone);
  if (away === 0) return `${time} today`;
  if (away === 1) return `${time} tomorrow`;
  if (away === -1) return `${time} yesterday`;
  if (Math.abs(away) < 7) return `${weekdayFormat.format(new Date(`${day}T12:00:00Z`))} ${time}`;
  return `${formatDay(day, now)} ${time}`;
}

/**
 * A date picker works in the browser's zone; the shop's hours are typed there. These two turn an instant into a Date whose
 * local fields read as the shop's clock, and back.
 */
export function toPicker(instant: Instant, zone: string): Date {
  const { year, month, day, hour, minute } = parts(instant, zone);
  return new Date(Number(year), Number(month) - 1, Number(day), Number(hour), Number(minute));
}

/** The instant at which the shop's clock shows what the picker shows. */
export function fromPicker(picked: Date, zone: string): Instant {
  const wanted = Date.UTC(
    picked.getFullYear(),
    picked.getMonth(),
    picked.getDate(),
    picked.getHours(),
    picked.getMinutes(),
  );
  // Twice, since the first guess may lie on the other side of a clock change.
  let guess = wanted;
  for (let i = 0; i < 2; i++) {
    const { year, month, day, hour, minute } = parts(new Date(guess).toISOString(), zone);
    guess += wanted - Date.UTC(Number(year), Number(month) - 1, Number(day), Number(hour), Number(minute));
  }
  return new Date(guess).toISOString();
}

/** The day that a picker shows. */
export const asDay = (picked: Date | null): Day | null =>
  picked
    ? `${picked.getFullYear()}-${String(picked.getMonth() + 1).padStart(2, '0')}-${String(picked.getDate()).padStart(2, '0')}`
    : null;
