import { DAY_MIN, PLANNED_AHEAD_MINUTES } from '../../units/instant.ts';
import { dateOf, dayNumber, weekday } from '../dates.ts';
import type { PlanSnapshot } from './snapshot.ts';

const MOST_DAYS = PLANNED_AHEAD_MINUTES / DAY_MIN;

type Hours = Pick<PlanSnapshot, 'calendars' | 'resources' | 'startDay'>;

/** Whether somebody works in some room on a day; where all rooms are always open, or there are none, every day is one. */
export function isWorkingDay({ calendars, resources, startDay }: Hours): (day: number) => boolean {
  const ids = new Set(resources.filter(({ kind }) => kind === 'people').map(({ calendarId }) => calendarId));
  const hours = calendars.filter(({ id, always }) => ids.has(id) && !always);
  const first = dayNumber(startDay)!;
  return (day) => {
    const date = dateOf(first + day);
    return (
      hours.length === 0 ||
      hours.some(
        ({ weekly, closed, extra }) =>
          extra.some((each) => each.date === date) ||
          (!closed.includes(date) && weekly.some((each) => each.day === weekday(first + day))),
      )
    );
  };
}

/** The minute in which the so-manieth working day ends, today counted where it is one; 0 for none. */
export function endOfWorkingDays(hours: Hours, count: number): number {
  if (count <= 0) return 0;
  const isOpen = isWorkingDay(hours);
  for (let day = 0, left = count; day < MOST_DAYS; day++) if (isOpen(day) && --left === 0) return (day + 1) * DAY_MIN;
  return MOST_DAYS * DAY_MIN;
}

/**
 * So many working days after a minute, at the same time of day; from a day on which nobody works they count from the first
 * hour of the next one on which somebody does.
 */
export function workingDaysAfter(hours: Hours, minute: number, count: number): number {
  const isOpen = isWorkingDay(hours);
  let day = Math.floor(minute / DAY_MIN);
  const rest = isOpen(day) ? minute - day * DAY_MIN : 0;
  while (!isOpen(day) && day < MOST_DAYS) day++;
  for (let left = count; left > 0 && day < MOST_DAYS;) if (isOpen(++day)) left--;
  return day * DAY_MIN + rest;
}
