import { minuteOfDay, timeOfDay } from '../dates.ts';
import type { PlanCalendar } from '../problem.ts';

interface Window {
  readonly from: string;
  readonly to: string;
}

/** A calendar with the windows of each day and date made into others. */
function perDay(
  calendar: PlanCalendar,
  id: string,
  make: <W extends Window>(windows: readonly W[]) => readonly W[],
): PlanCalendar {
  const { weekly = [], extra = [], closed = [] } = calendar;
  const days = [...new Set(weekly.map(({ day }) => day))];
  const dates = [...new Set(extra.map(({ date }) => date))];
  return {
    id,
    weekly: days.flatMap((day) => make(weekly.filter((each) => each.day === day))),
    closed,
    extra: dates.flatMap((date) => make(extra.filter((each) => each.date === date))),
  };
}

/** From the first window's begin to the last one's end. */
function hull<W extends Window>(windows: readonly W[]): W {
  const by = (key: 'from' | 'to') => (a: W, b: W) => minuteOfDay(a[key])! - minuteOfDay(b[key])!;
  return { ...[...windows].sort(by('from'))[0]!, to: [...windows].sort(by('to')).at(-1)!.to };
}

/** From the first hour of each day to its last, without the breaks: those at a fire take turns. */
export const throughBreaks = (calendar: PlanCalendar, id: string): PlanCalendar =>
  perDay(calendar, id, (windows) => [hull(windows)]);

/**
 * When something that lasts so many minutes can begin so that it is over before the day's last hour is; undefined where no
 * day is so long.
 */
export function overByEvening(calendar: PlanCalendar, minutes: number, id: string): PlanCalendar | undefined {
  const made = perDay(calendar, id, (windows) => {
    const whole = hull(windows);
    const [from, last] = [minuteOfDay(whole.from)!, minuteOfDay(whole.to)! - minutes];
    // A minute more: the last begin is a minute in which it is open.
    return last < from ? [] : [{ ...whole, to: timeOfDay(last + 1) }];
  });
  return (made.weekly ?? []).length > 0 ? made : undefined;
}
