import type { Calendar, Day, Resource } from '@kalvet/core';
import { dateOf, dayNumber, weekday } from '@kalvet/core';
import { rowsOf } from '../db/rows.ts';
import type { Store } from '../write/store.ts';

/** The days from one to another, both included, on which a calendar is open at all; at most two years of them. */
export function openDays(calendar: Calendar, from: Day, to: Day): Day[] {
  const [first, last] = [dayNumber(from)!, dayNumber(to)!];
  const days: Day[] = [];
  for (let day = first; day <= Math.min(last, first + 730); day++) {
    const date = dateOf(day);
    const weekly = !calendar.closed.includes(date) && calendar.weekly.some((window) => window.day === weekday(day));
    if (calendar.always || weekly || calendar.extra.some((extra) => extra.date === date)) days.push(date);
  }
  return days;
}

/** The days on which metal can be poured. */
export async function pourDays(store: Store, from: Day, to: Day): Promise<Day[]> {
  const [crucible] = await rowsOf<Resource>(store, 'resources', { kind: 'crucible' });
  const [calendar] = crucible ? await rowsOf<Calendar>(store, 'calendars', { id: crucible.calendarId }) : [];
  return calendar ? openDays(calendar, from, to) : [];
}
