import type { Resource } from '../../records/plan.ts';
import type { PlanCalendar, PlanProblem, PlanTask } from '../problem.ts';
import { overByEvening } from './hours.ts';
import type { PlanSnapshot } from './snapshot.ts';

/** Hours in which a firing can begin that somebody stays at; no resource of the shop. */
export const WATCHED = 'watched:';
/** What each tree of a load takes of the hand that stays: so little that a load has one hand, and so much that it has no other work. */
const WATCH_UNITS = 1 / 64;
/** What burns for longer than a day is slow: it is lit and drawn, and burns by itself between. */
const MOST_MINUTES = 720;

/**
 * A flash kiln is never left alone: a hand of the burnout stays at it from its lighting to its end, and it is lit so early
 * that this is over within the day's hours.
 */
export function withWatch(problem: PlanProblem, { settings, resources }: PlanSnapshot, burnout: Resource): PlanProblem {
  const hours = problem.calendars.find(({ id }) => id === burnout.calendarId);
  if (settings.kilnHands === 0 || !hours || hours.always) return problem;
  const isKiln = new Set(resources.filter(({ kind }) => kind === 'kiln').map(({ id }) => id));
  const isWatched = ({ needs, duration, fixedStart }: PlanTask) =>
    fixedStart === undefined && duration <= MOST_MINUTES && needs.some(({ resource }) => isKiln.has(resource));
  const calendars = new Map<number, PlanCalendar>();
  for (const task of problem.tasks)
    if (isWatched(task) && !calendars.has(task.duration)) {
      const id = `${WATCHED}${task.duration}`;
      // Where no day is so long it can begin in no hour.
      calendars.set(task.duration, overByEvening(hours, task.duration, id) ?? { id, weekly: [] });
    }
  return {
    ...problem,
    calendars: [...problem.calendars, ...calendars.values()],
    resources: [...problem.resources, ...[...calendars.values()].map(({ id }) => ({ id, capacity: 1, calendar: id }))],
    tasks: problem.tasks.map((task) =>
      isWatched(task)
        ? {
            ...task,
            needs: [
              ...task.needs.filter(({ resource }) => resource !== burnout.id),
              { resource: burnout.id, units: WATCH_UNITS },
              { resource: `${WATCHED}${task.duration}`, units: 0 },
            ],
          }
        : task,
    ),
  };
}
