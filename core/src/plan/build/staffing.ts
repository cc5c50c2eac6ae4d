import type { Staffing } from '../../records/plan.ts';
import type { Day } from '../../units/instant.ts';
import { DAY_MIN, PLANNED_AHEAD_MINUTES, dayNumberOf } from '../../units/instant.ts';
import type { PlanResource, PlanTask } from '../problem.ts';

/** Hands that are not there: a task that takes them away for so many days. No step of the shop. */
export const AWAY = 'away:';
/** What it counts for: nothing. */
export const AWAY_JOB = 'away';

interface Stretch {
  readonly from: number;
  readonly to: number;
  readonly there: number;
}

/**
 * How many hands are there from day to day, in stretches of days with the same number, from the first day on for as long as
 * is planned. Nobody is ever fewer than none.
 * @param count how many there usually are
 */
export function handsByDay(count: number, staffing: readonly Staffing[], startDay: Day): Stretch[] {
  const first = dayNumberOf(startDay);
  const last = first + PLANNED_AHEAD_MINUTES / DAY_MIN;
  const edges = new Set([first, last]);
  for (const { from, to } of staffing)
    for (const edge of [dayNumberOf(from), dayNumberOf(to) + 1]) if (edge > first && edge < last) edges.add(edge);
  const days = [...edges].sort((a, b) => a - b);
  return days.slice(0, -1).map((day, i) => ({
    from: (day - first) * DAY_MIN,
    to: (days[i + 1]! - first) * DAY_MIN,
    there: staffing
      .filter((each) => dayNumberOf(each.from) <= day && day <= dayNumberOf(each.to))
      .reduce((sum, { more }) => Math.max(0, sum + more), count),
  }));
}

/**
 * Rooms with as many hands as there ever are, and what takes away those that are not there on a day: a resource of the plan
 * has one number, the days differ. Where hands are at work that will be missed, they finish first (`settleFixed`).
 */
export function withStaffing(
  resources: readonly PlanResource[],
  staffing: readonly Staffing[],
  startDay: Day,
): { readonly resources: readonly PlanResource[]; readonly tasks: readonly PlanTask[] } {
  if (staffing.length === 0) return { resources, tasks: [] };
  const tasks: PlanTask[] = [];
  const changed = resources.map((resource) => {
    const own = staffing.filter(({ resourceId }) => resourceId === resource.id);
    if (own.length === 0) return resource;
    const stretches = handsByDay(resource.capacity, own, startDay);
    const most = Math.max(resource.capacity, ...stretches.map(({ there }) => there));
    for (const { from, to, there } of stretches) {
      if (there >= most) continue;
      tasks.push({
        id: `${AWAY}${resource.id}:${from}`,
        job: AWAY_JOB,
        duration: to - from,
        spans: 'through',
        needs: [{ resource: resource.id, units: most - there }],
        fixedStart: from,
        spread: 0,
      });
    }
    return { ...resource, capacity: most };
  });
  return { resources: changed, tasks };
}
