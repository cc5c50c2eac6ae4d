import type { HandsWeeks } from '../../records/plan.ts';
import type { Id } from '../../records/common.ts';
import type { Day } from '../../units/instant.ts';
import { DAY_MIN, addDays } from '../../units/instant.ts';
import { compile } from '../compile.ts';
import { dayNumber, weekday } from '../dates.ts';
import type { Openings } from '../openings.ts';
import { openBetween } from '../openings.ts';
import type { ShopPlan } from './shop-plan.ts';
import { AWAY } from './staffing.ts';

const WEEK_MIN = 7 * DAY_MIN;

/** A stretch of time in which hands are held, and how many. */
interface Held {
  readonly from: number;
  readonly to: number;
  readonly hands: number;
}

/**
 * How much work a plan has for the hands of each room, week by week (Monday to Sunday), beside what the hands that are there
 * can do: minutes of one pair of hands, in the room's hours, from now on. A crew that is called to a pour counts as at work.
 * @param people the resources asked about
 * @param now from which minute on it is counted
 * @throws RangeError where the plan has no schedule
 */
export function weeksOf(
  { problem, schedule }: Pick<ShopPlan, 'problem' | 'schedule'>,
  { people, startDay, now }: { readonly people: readonly Id[]; readonly startDay: Day; readonly now: number },
): HandsWeeks[] {
  if (schedule.status !== 'feasible') throw new RangeError(`a plan that is ${schedule.status} has no weeks`);
  const { resources, openings } = compile(problem);
  const held = heldHands({ problem, schedule }, new Set(people));
  const monday = (1 - weekday(dayNumber(startDay)!)) * DAY_MIN;
  const last = schedule.tasks.reduce((most, { id, end }) => (id.startsWith(AWAY) ? most : Math.max(most, end)), now);
  const count = Math.ceil((last - monday) / WEEK_MIN);
  return resources.flatMap(({ id, capacity }, place): HandsWeeks[] => {
    if (!people.includes(id)) return [];
    const open = openings[place]!;
    const { work, away } = held.get(id) ?? { work: [], away: [] };
    return [
      {
        resourceId: id,
        weeks: Array.from({ length: count }, (_, week) => {
          const from = Math.max(now, monday + week * WEEK_MIN);
          const to = Math.max(from, monday + (week + 1) * WEEK_MIN);
          return {
            monday: addDays(startDay, (monday + week * WEEK_MIN) / DAY_MIN),
            planned: minutesIn(work, open, from, to),
            there: capacity * openBetween(open, from, to) - minutesIn(away, open, from, to),
          };
        }),
      },
    ];
  });
}

const minutesIn = (held: readonly Held[], open: Openings, from: number, to: number): number =>
  held.reduce(
    (sum, each) =>
      each.from < to && each.to > from
        ? sum + each.hands * openBetween(open, Math.max(from, each.from), Math.min(to, each.to))
        : sum,
    0,
  );

/** Who is held when: by steps, by loads that call a crew, and by being away. */
function heldHands(
  { problem, schedule }: Pick<ShopPlan, 'problem' | 'schedule'>,
  people: ReadonlySet<Id>,
): Map<Id, { work: Held[]; away: Held[] }> {
  const at = new Map(schedule.tasks.map((task) => [task.id, task]));
  const found = new Map<Id, { work: Held[]; away: Held[] }>([...people].map((id) => [id, { work: [], away: [] }]));
  const batches = new Map(problem.resources.flatMap(({ id, batch }) => (batch ? [[id, batch]] : [])));
  const loads = new Set<string>();
  for (const { id, needs } of problem.tasks) {
    const { start, end, load } = at.get(id)!;
    for (const { resource, units = 1 } of needs) {
      const own = found.get(resource);
      if (own && units > 0) own[id.startsWith(AWAY) ? 'away' : 'work'].push({ from: start, to: end, hands: units });
      if (load === undefined || loads.has(load)) continue;
      const crew = batches.get(resource)?.needs ?? [];
      if (batches.has(resource)) loads.add(load);
      for (const { resource: of, units: hands = 1, before = 0 } of crew)
        found.get(of)?.work.push({ from: start - before, to: end, hands });
    }
  }
  return found;
}
