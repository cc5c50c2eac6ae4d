import { DAY_MIN } from '../../units/instant.ts';
import { minuteOfDay } from '../dates.ts';
import type { PlanSnapshot } from './snapshot.ts';

const WEEK_DAYS = 7;

/**
 * Minutes after a pour within which its trees are knocked out: by the end of the next working day, the pour's crew before
 * anything else; for a tree that cools longer, of the working day after that. By the hours of an ordinary week; undefined hours
 * give none.
 * @param cooling minutes before it may be knocked out
 */
export function knockOutWithin({ calendars, resources }: PlanSnapshot, cooling: number): number | null {
  const hoursOf = (kind: string, room: string) =>
    calendars.find(({ id }) => id === resources.find((each) => each.kind === kind && each.room === room)?.calendarId);
  const [pours, shop] = [hoursOf('crucible', 'pour'), hoursOf('people', 'chasing')];
  if (!pours || !shop || pours.always || shop.always || shop.weekly.length === 0) return null;
  const endOn = (day: number) =>
    Math.max(-1, ...shop.weekly.filter((each) => each.day === day).map(({ to }) => minuteOfDay(to)!));
  const lags = pours.weekly.map(({ day, from }) => {
    const begin = minuteOfDay(from)!;
    // The first working day after the pour's whose end lies behind the cooling.
    for (let ahead = 1; ; ahead++) {
      const end = endOn(((day - 1 + ahead) % WEEK_DAYS) + 1);
      const lag = ahead * DAY_MIN + end - begin;
      if (end >= 0 && lag > cooling) return lag;
    }
  });
  return lags.length === 0 ? null : Math.max(...lags);
}

/**
 * Minutes after a pour before which its trees are not knocked out: they are left until the next working day. The latest hour of
 * the metal shop on a pour day, counted from the first hour in which metal flows, is over on that day whenever it was poured.
 * @param cooling minutes before it may be knocked out
 */
export function knockOutAfter({ calendars, resources }: PlanSnapshot, cooling: number): number {
  const hoursOf = (kind: string, room: string) =>
    calendars.find(({ id }) => id === resources.find((each) => each.kind === kind && each.room === room)?.calendarId);
  const [pours, shop] = [hoursOf('crucible', 'pour'), hoursOf('people', 'chasing')];
  if (!pours || !shop || pours.always || shop.always) return cooling;
  const lags = pours.weekly.flatMap(({ day, from }) =>
    shop.weekly.filter((each) => each.day === day).map(({ to }) => minuteOfDay(to)! - minuteOfDay(from)!),
  );
  return Math.max(cooling, ...lags);
}
