import type {
  Calendar,
  Day,
  Heat,
  Id,
  Instant,
  Lane,
  LaneBar,
  LanesAnswer,
  Load,
  LoadPlace,
  MoveSteps,
  Pouring,
  Reach,
  Resource,
  ShopIndex,
  ShopSettings,
  Step,
} from '@kalvet/core';
import * as core from '@kalvet/core';
import { carrierLabel, daysBetween, kindOf, listUnder, piecesOfStep, stepName } from '@kalvet/core';
import { Op } from 'sequelize';
import { changeNumber } from '../live/changes.ts';
import { settingsOf } from '../people/settings.ts';
import { rowsOf } from '../db/rows.ts';
import type { Server } from '../http/request.ts';
import { loadShop } from '../shop/load.ts';
import { lockCarriers } from '../shop/locked.ts';
import { perform } from '../shop/perform.ts';
import type { TreeStored } from '../shop/stored.ts';
import { stored } from '../shop/stored.ts';
import { worksOf } from '../shop/works-of.ts';
import type { Context } from '../write/context.ts';
import { invalid, notFound } from '../write/problem.ts';
import type { Store } from '../write/store.ts';
import { openHours } from './open-days.ts';
import type { PlannedWork } from './planned-work.ts';
import { plannedWork } from './planned-work.ts';
import { currentPlan, plannedDates } from './read-plan.ts';
import { WallClock } from './wall-clock.ts';

/** Single steps are shown for so many days at most: nobody could tell more apart. */
export const MOST_LANE_DAYS = 42;

/** What is planned on the hands of each room and on each fire, from one day to another, both included. */
export async function lanesAnswer({ store, now }: Server, from: Day, to: Day): Promise<LanesAnswer> {
  if (daysBetween(from, to) >= MOST_LANE_DAYS)
    throw invalid({ to: `is further than ${MOST_LANE_DAYS} days from the first day` });
  const change = await changeNumber(store);
  const settings = await settingsOf(store);
  const { planId } = (await currentPlan(store)).stand;
  const resources = await rowsOf<Resource>(store, 'resources', {});
  const { work, index } = await plannedWork(store, planId, { now: now(), settings, from, to });
  const trees = await stored<TreeStored>(store, 'tree');
  const treeIds = work.filter(({ step }) => step.carrier === 'tree').map(({ step }) => step.carrierId);
  const set = await setUp(store, treeIds);
  const hoursOf = hoursByCalendar(await rowsOf<Calendar>(store, 'calendars', {}), { now: now(), settings, from, to });
  const barOf = (name: string, members: readonly PlannedWork[]) =>
    laneBar(index, name, members, { trees, set, settings });
  return {
    change,
    from,
    to,
    lanes: resources
      .sort((a, b) => a.id.localeCompare(b.id))
      .map(({ id, name, kind, room, count, calendarId }): Lane => {
        const bars = new Map<string, PlannedWork[]>();
        for (const each of work)
          if (each.resourceId === id)
            listUnder(bars, kind === 'people' ? each.stepId : (each.load_ ?? each.stepId), each);
        return {
          resourceId: id,
          name,
          kind,
          room,
          count,
          open: hoursOf.get(calendarId) ?? null,
          bars: [...bars].map(([name, members]) => barOf(name, members)),
        };
      }),
  };
}

/** When each calendar that is not always open is open, by its id. */
function hoursByCalendar(
  calendars: readonly Calendar[],
  {
    now,
    settings,
    from,
    to,
  }: { readonly now: Instant; readonly settings: ShopSettings; readonly from: Day; readonly to: Day },
): Map<Id, [Instant, Instant][]> {
  const clock = new WallClock(now, settings.timeZone);
  const at = (day: Day, time: string) =>
    clock.instantOf(daysBetween(clock.startDay, day) * core.DAY_MIN + core.minuteOfDay(time)!);
  return new Map(
    calendars
      .filter(({ always }) => !always)
      .map((calendar) => [
        calendar.id,
        openHours(calendar, from, to).map((each): [Instant, Instant] => [
          at(each.day, each.from),
          at(each.day, each.to),
        ]),
      ]),
  );
}

/** Trees that are in a heat or load that somebody has set up: its hour is set there. */
async function setUp(store: Store, treeIds: readonly Id[]): Promise<ReadonlySet<Id>> {
  const open = { outcome: null, treeId: [...new Set(treeIds)] };
  const [pourings, places] = await Promise.all([
    rowsOf<Pouring>(store, 'pourings', open),
    rowsOf<LoadPlace>(store, 'loadPlaces', open),
  ]);
  const still = { [Op.notIn]: ['done', 'abandoned'] };
  const [heats, loads] = await Promise.all([
    rowsOf<Heat>(store, 'heats', { id: pourings.map(({ heatId }) => heatId), state: still }),
    rowsOf<Load>(store, 'loads', { id: places.map(({ loadId }) => loadId), state: still }),
  ]);
  const ids = new Set([...heats, ...loads].map(({ id }) => id));
  return new Set([
    ...pourings.filter(({ heatId }) => ids.has(heatId)).map(({ treeId }) => treeId),
    ...places.filter(({ loadId }) => ids.has(loadId)).map(({ treeId }) => treeId),
  ]);
}

interface Known {
  readonly trees: ReadonlyMap<Id, TreeStored>;
  readonly set: ReadonlySet<Id>;
  readonly settings: ShopSettings;
}

function laneBar(
  index: ShopIndex,
  name: string,
  members: readonly PlannedWork[],
  { trees, set, settings }: Known,
): LaneBar {
  const [{ step, startsAt, endsAt, parts, partEnds }] = members as [PlannedWork];
  const { through } = kindOf(step.kind);
  const starts = [startsAt, ...(parts ?? [])];
  const ends = [...(partEnds ?? []), endsAt];
  const kg = members.reduce((sum, { step: { carrierId } }) => sum + (trees.get(carrierId)?.pourKg ?? 0), 0);
  const full = { load: members.length / settings.kilnPlaces, heat: kg / settings.crucibleUsableKg };
  return {
    name,
    steps: members.map(({ step: { id, version, pinKind, pinAt } }) => ({ id, version, pinKind, pinAt })),
    kind: step.kind,
    what: stepName(index, step),
    on: members.map((each) => carrierLabel(index, each.step)).join(', '),
    pieceIds: [...new Set(members.flatMap((each) => piecesOfStep(index, each.step)))],
    spells: starts.length === ends.length ? starts.map((at, i) => [at, ends[i]!] as const) : [[startsAt, endsAt]],
    isRunning: members.some((each) => each.step.state === 'running'),
    isSet: through !== undefined && members.some((each) => set.has(each.step.carrierId)),
    full: through ? full[through] : null,
  };
}

/** How far steps that are done together can be moved, as the plan in use has them. */
export async function reachAnswer(store: Store, ids: readonly Id[]): Promise<Reach> {
  const steps = await rowsOf<Step>(store, 'steps', { id: ids });
  if (steps.length < ids.length) throw notFound('step');
  const workIds = new Set<Id>();
  for (const { carrier, carrierId } of steps)
    for (const workId of await worksOf(store, carrier, carrierId)) workIds.add(workId);
  const index = core.indexShop(await loadShop(store, { workIds: [...workIds] }));
  const { planId } = (await currentPlan(store)).stand;
  const dates = await plannedDates(store, planId, [...index.step.keys()]);
  return core.reachOf(index, steps, dates);
}

/** Moves planned work: each step gets its pin, all of them or none. */
export async function moveSteps(ctx: Context, given: MoveSteps): Promise<{ stepIds: readonly Id[] }> {
  ctx.may('pin step');
  const found = await Promise.all(given.steps.map(({ id }) => ctx.find<Step>('steps', id)));
  if (found.some((step) => !step)) throw notFound('step');
  const index = await lockCarriers(
    ctx,
    found.map((step) => [step!.carrier, step!.carrierId] as const),
  );
  const pinned: core.Pinned[] = [];
  for (const { id, version, kind, at } of given.steps) {
    if ((kind === null) !== (at === null)) throw invalid({ at: 'a pin needs its time, and only a pin has one' });
    const step = await ctx.claim<Step>('steps', id, version, 'step', given);
    ctx.may('pin step', index.kind(step).room);
    pinned.push({ step, pin: { kind, at } });
  }
  return (await perform(ctx, index, core.pinSteps(index, pinned, await ctx.doing()))).answer;
}
