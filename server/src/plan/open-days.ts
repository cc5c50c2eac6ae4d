import type { Calendar, Day, Resource } from '@kalvet/core';
import { addDays, dateOf, dayNumber, weekday } from '@kalvet/core';
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

/** The hours of a calendar on the days from one to another, both included, in order. */
export function openHours(calendar: Calendar, from: Day, to: Day): { day: Day; from: string; to: string }[] {
  return openDays(calendar, from, to).flatMap((day) => {
    const weekly = calendar.closed.includes(day)
      ? []
      : calendar.weekly.filter((window) => window.day === weekday(dayNumber(day)!));
    const extra = calendar.extra.filter(({ date }) => date === day);
    return [...weekly, ...extra]
      .map((window) => ({ day, from: window.from, to: window.to }))
      .sort((a, b) => a.from.localeCompare(b.from));
  });
}

/** The days on which metal can be poured. */
export async function pourDays(store: Store, from: Day, to: Day): Promise<Day[]> {
  const [crucible] = await rowsOf<Resource>(store, 'resources', { kind: 'crucible' });
  const [calendar] = crucible ? await rowsOf<Calendar>(store, 'calendars', { id: crucible.calendarId }) : [];
  return calendar ? openDays(calendar, from, to) : [];
}

/** How far the days reach that a calendar on a screen marks. */
const DAYS_BACK = 70;
const DAYS_AHEAD = 400;

/** Pour days, and days on which nobody works in the rooms, around a day. */
export async function daysAround(store: Store, today: Day): Promise<{ pourDays: Day[]; closedDays: Day[] }> {
  const [from, to] = [addDays(today, -DAYS_BACK), addDays(today, DAYS_AHEAD)];
  const hands = await rowsOf<Resource>(store, 'resources', { kind: 'people' });
  const ids = [...new Set(hands.map(({ calendarId }) => calendarId))];
  const calendars = await rowsOf<Calendar>(store, 'calendars', { id: ids });
  const open = new Set(calendars.flatMap((calendar) => openDays(calendar, from, to)));
  const all = Array.from({ length: DAYS_BACK + DAYS_AHEAD + 1 }, (_, i) => addDays(from, i));
  return { pourDays: await pourDays(store, from, to), closedDays: all.filter((day) => !open.has(day)) };
}
