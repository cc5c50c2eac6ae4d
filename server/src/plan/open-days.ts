import type { Calendar, Day } from '@kalvet/core';
import { dateOf, dayNumber, weekday } from '@kalvet/core';

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
