import type { Day, Instant } from '@kalvet/core';
import { instantAt, wallTimeOf } from '@kalvet/core';

// A date picker works in the browser's zone; the shop's hours are typed there. These turn an instant or a day into a Date
// whose local fields read as the shop's clock, and back. Times are printed by the shop's clock alone.

/** An instant as a picker shows it. */
export function toPicker(instant: Instant, zone: string): Date {
  const { day, hour, minute } = wallTimeOf(instant, zone);
  const [year, month, date] = day.split('-').map(Number);
  return new Date(year!, month! - 1, date, hour, minute);
}

/** The instant at which the shop's clock shows what the picker shows. */
export const fromPicker = (picked: Date, zone: string): Instant =>
  instantAt({ day: dayPicked(picked), hour: picked.getHours(), minute: picked.getMinutes() }, zone);

/** A day as a picker shows it: at noon, so that no zone moves it. */
export function dayPicker(day: Day): Date {
  const [year, month, date] = day.split('-').map(Number);
  return new Date(year!, month! - 1, date, 12);
}

const two = (value: number) => String(value).padStart(2, '0');
const dayPicked = (picked: Date): Day =>
  `${String(picked.getFullYear()).padStart(4, '0')}-${two(picked.getMonth() + 1)}-${two(picked.getDate())}`;

/** The day that a picker shows; one that could not be read is refused by the server, by name. */
export const asDay = (picked: Date | null): Day | null =>
  picked === null ? null : Number.isNaN(picked.getTime()) ? 'no day' : dayPicked(picked);
