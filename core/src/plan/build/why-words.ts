import type { HoldKind } from '../../records/why.ts';
import type { Skill } from '../../records/people.ts';
import { SKILL_NAMES } from '../../records/people.ts';
import type { Room } from '../../records/common.ts';
import { stepLabel, stepName } from '../../route/labels.ts';
import type { Text } from '../../units/words.ts';
import { say, span } from '../../units/words.ts';
import type { ChainLink } from '../why.ts';
import { stepIdOf } from './parts.ts';
import type { PlannedShop } from './draft-plan.ts';
import type { PlanSnapshot } from './snapshot.ts';
import { DONE_BEFORE } from './snapshot.ts';
import { KILNS_IN_USE } from './fires.ts';
import { HOIST } from './hoist.ts';
import { SKILL } from './skills.ts';
import { WATCHED } from './watch.ts';
import { AWAY } from './staffing.ts';
import { REMAKE } from './wear.ts';

/** What a task of the plan is called: its step, or what stands in for one. */
export function taskWords({ index }: PlanSnapshot, taskId: string): string {
  if (taskId.startsWith(REMAKE)) {
    const mould = index.mould.get(taskId.slice(REMAKE.length));
    return `the next mould after M-${mould?.number ?? '?'}`;
  }
  if (taskId.startsWith(AWAY)) return 'hands that are away';
  const step = index.step.get(stepIdOf(taskId.replace(DONE_BEFORE, '')));
  return step ? stepLabel(index, step) : 'other work';
}

/** How the wait after a step passes, by its room. */
const PASSES: Readonly<Partial<Record<Room, string>>> = {
  mould: 'cures',
  shell: 'dries',
  burnout: 'cools',
  pour: 'cools',
};

/** What held a task of the chain, by kind and in a sentence. */
export function holdOf(planned: PlannedShop, link: ChainLink): { readonly hold: HoldKind; readonly words: Text } {
  const { snapshot } = planned;
  const { hold, closed } = link;
  const hours = closed > 0 ? hoursOf(snapshot, link) : undefined;
  switch (hold.kind) {
    case 'link': {
      const from = snapshot.index.step.get(stepIdOf(hold.by.replace(DONE_BEFORE, '')));
      const then: Text = hours ? say`, then waits for ${hours.words}` : '';
      if (hold.minLag <= 0 || !from)
        return hours ? { hold: hours.hold, words: say`waits for ${hours.words}` } : { hold: 'free', words: '' };
      const kind = snapshot.index.kind(from);
      const name = stepName(snapshot.index, from);
      if (kind.waitIs === 'expected')
        return { hold: 'approval', words: say`an answer to “${name}” is expected after ${span(hold.minLag)}${then}` };
      return {
        hold: 'wait',
        words: say`${PASSES[kind.room] ?? 'rests'} ${span(hold.minLag)} after “${name}”${then}`,
      };
    }
    case 'resource':
      return resourceOf(snapshot, hold.resource, hold.by);
    case 'load':
      return { hold: 'mates', words: `goes together with ${taskWords(snapshot, hold.by)}, which is ready no sooner` };
    case 'follower':
      return {
        hold: 'follower',
        words: `must not be done long before ${taskWords(snapshot, hold.by)}, which cannot begin sooner`,
      };
    case 'earliest':
      return hours
        ? { hold: hours.hold, words: say`waits for ${hours.words}` }
        : { hold: 'free', words: link.waited > 0 ? 'cannot begin sooner' : '' };
    case 'fixed':
      return { hold: 'fixed', words: 'has begun, or was put on this hour' };
    case 'choice':
      return link.waited > 0 ? notSooner(planned, link) : { hold: 'free', words: '' };
  }
}

/** Why a task that could begin sooner by all it waits for does not: of loads and heats, what of those before it was left. */
function notSooner(
  { snapshot, plan: { problem, schedule } }: PlannedShop,
  { task: id, start, waited }: ChainLink,
): { readonly hold: HoldKind; readonly words: Text } {
  const task = problem.tasks.find((each) => each.id === id)!;
  const machine = problem.resources.find(
    ({ id: resource, batch }) => batch && task.needs.some((need) => need.resource === resource),
  );
  if (!machine) return { hold: 'free', words: 'it could begin sooner: it is kept where it was told' };
  const need = task.needs.find(({ resource }) => resource === machine.id)!;
  const isHeat = snapshot.resources.some(({ id: resource, kind }) => resource === machine.id && kind === 'crucible');
  const needOf = new Map(
    problem.tasks.flatMap((each) => {
      const own = each.needs.find(({ resource }) => resource === machine.id);
      return own ? [[each.id, own] as const] : [];
    }),
  );
  const loads = new Map<string, { key: string | undefined; units: number }>();
  for (const placed of schedule.tasks) {
    const own = needOf.get(placed.id);
    if (!own || placed.load === undefined || placed.start >= start || placed.start < start - waited) continue;
    const load = loads.get(placed.load) ?? { key: own.key, units: 0 };
    load.units += own.units ?? 1;
    loads.set(placed.load, load);
  }
  const units = need.units ?? 1;
  const alike = [...loads.values()].filter(({ key }) => key === need.key);
  const what = isHeat ? 'heat' : 'firing';
  const hold = isHeat ? ('furnace' as const) : ('kiln' as const);
  if (loads.size === 0)
    return isHeat
      ? { hold: 'pour day', words: 'the first heat of its day: the charge melts while somebody is at the furnace' }
      : { hold: 'hours', words: 'the kiln is lit while somebody is there' };
  if (alike.some((load) => load.units + units <= machine.capacity))
    return { hold: 'free', words: `it could go with a ${what} before: it is kept where it was told` };
  return {
    hold,
    words:
      alike.length === 0
        ? `the ${what} before is of another ${isHeat ? 'alloy' : 'kind'}`
        : `the ${what} before it is full`,
  };
}

function hoursOf({ calendars, resources }: PlanSnapshot, link: ChainLink): { hold: HoldKind; words: Text } {
  const names = link.calendars.map((id) =>
    id.startsWith(WATCHED)
      ? 'Somebody stays at the kiln'
      : (calendars.find((each) => each.id === id)?.name ?? 'its hours'),
  );
  const isPour = link.calendars.some((id) =>
    resources.some(({ kind, calendarId }) => kind === 'crucible' && calendarId === id),
  );
  return {
    hold: isPour ? 'pour day' : 'hours',
    words: isPour ? 'a pour day' : `“${[...new Set(names)].join('” and “')}”`,
  };
}

function resourceOf(snapshot: PlanSnapshot, resource: string, by: string): { hold: HoldKind; words: Text } {
  const found = snapshot.resources.find(({ id }) => id === resource);
  const after = taskWords(snapshot, by);
  if (resource.startsWith(SKILL)) {
    const skill = resource.slice(SKILL.length) as Skill;
    return { hold: 'hands', words: `whoever ${SKILL_NAMES[skill]} is at work on ${after}` };
  }
  if (resource === HOIST) return { hold: 'hands', words: `the hoist is in use for ${after}` };
  if (resource === KILNS_IN_USE) return { hold: 'kiln', words: `the kiln is in use until ${after} is done` };
  if (!found) return { hold: 'mould', words: `the mould is taken until ${after} is out of it` };
  if (found.kind === 'kiln') return { hold: 'kiln', words: `the kiln is taken by the load before, with ${after}` };
  if (found.kind === 'crucible')
    return { hold: 'furnace', words: `the furnace comes from the heat before, with ${after}` };
  return { hold: 'hands', words: `${found.name}: hands are at work on ${after}` };
}
