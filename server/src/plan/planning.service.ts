import type {
  Calendar,
  Id,
  PlanningAnswer,
  Resource,
  SaveCalendar,
  SaveNumbers,
  SavePin,
  SaveResource,
  SaveTimes,
  Step,
} from '@kalvet/core';
import {
  KIND_ORDER,
  PLANNED_AHEAD_MINUTES,
  STEP_KINDS,
  isOpen,
  longestOpen,
  roomOfStep,
  stepLabel,
  timesOf,
} from '@kalvet/core';
import { QueryTypes } from 'sequelize';
import { settingsOf } from '../people/settings.ts';
import { concernStep } from '../route/step.service.ts';
import { loadRows } from '../shop/load.ts';
import { lockShop, worksOf } from '../shop/locked.ts';
import type { Context, Store } from '../write/context.ts';
import { Problem, invalid, notFound, refused } from '../write/problem.ts';

/** Everything the planner counts with. */
export async function planning(store: Store): Promise<PlanningAnswer> {
  const settings = await settingsOf(store);
  const calendars = await loadRows<Calendar>(store, 'calendars', {});
  const resources = await loadRows<Resource>(store, 'resources', {});
  const [counter] = await store.db.query<{ value: number }>("SELECT value FROM counter WHERE name = 'settings'", {
    type: QueryTypes.SELECT,
  });
  return {
    settings,
    settingsVersion: counter?.value ?? 0,
    calendars: calendars.sort((a, b) => a.id.localeCompare(b.id)),
    resources: resources.sort((a, b) => a.id.localeCompare(b.id)),
    kinds: KIND_ORDER.filter((kind) => !['load', 'heat'].includes(STEP_KINDS[kind].carrier)).map((kind) => ({
      kind,
      name: STEP_KINDS[kind].name,
      room: STEP_KINDS[kind].room,
      usual: timesOf(kind, undefined),
      own: settings.routeTimes[kind] ?? {},
    })),
  };
}

/** The longest that can be worked without a break in some hours, and what of the route would no longer fit. */
async function judgeHours(ctx: Context, calendar: Pick<Calendar, 'always' | 'weekly'>, users: readonly Resource[]) {
  if (calendar.always || users.length === 0) return;
  const longest = longestOpen(calendar.weekly);
  if (longest === 0)
    throw invalid({
      weekly: `${users.map(({ name }) => name).join(', ')} would never be open: give at least one window`,
    });
  const { routeTimes } = await settingsOf(ctx.store, ctx.tx);
  for (const user of users) {
    if (user.kind === 'kiln') continue;
    const kind = KIND_ORDER.find(
      (code) =>
        STEP_KINDS[code].room === user.room &&
        STEP_KINDS[code].spans === 'unbroken' &&
        timesOf(code, routeTimes).minutes > longest,
    );
    if (kind)
      throw invalid({
        weekly: `${STEP_KINDS[kind].name} takes ${timesOf(kind, routeTimes).minutes} min without a break; these hours have ${longest} at most`,
      });
  }
}

/** Enters a calendar, new or changed; used by the next plan at once. */
export async function saveCalendar(ctx: Context, given: SaveCalendar): Promise<{ id: Id }> {
  const { version, ...rest } = given;
  const users = await loadRows<Resource>(ctx.store, 'resources', { calendarId: given.id }, ctx.tx);
  await judgeHours(ctx, given, users);
  if (version === 0) {
    if (await ctx.find('calendars', given.id)) throw invalid({ id: 'these hours are there already' });
    await ctx.insert<Calendar>('calendars', [{ ...rest, version: 1 }]);
  } else {
    const before = await ctx.claim<Calendar>('calendars', given.id, version, 'calendar', given);
    await ctx.update('calendars', before, rest);
  }
  ctx.event = { verb: 'change settings', text: `Hours "${given.name}" ${version === 0 ? 'entered' : 'changed'}` };
  return { id: given.id };
}

/** Changes how many people, kilns or crucibles there are, their hours and what lies between two loads. */
export async function saveResource(ctx: Context, id: Id, { version, ...patch }: SaveResource): Promise<{ id: Id }> {
  const before = await ctx.claim<Resource>('resources', id, version, 'entry', patch);
  const calendar = await ctx.find<Calendar>('calendars', patch.calendarId);
  if (!calendar) throw invalid({ calendarId: 'there are no such hours' });
  await judgeHours(ctx, calendar, [before]);
  await ctx.update('resources', before, patch);
  ctx.event = { verb: 'change settings', text: `${before.name}: ${patch.count}, ${calendar.name}` };
  return { id };
}

/** Takes the settings for this write. They are many values with one version: whoever saw an older one is told. */
async function claimSettings(ctx: Context, version: number, yours: unknown): Promise<void> {
  const [row] = await ctx.select<{ value: number }>("SELECT value FROM counter WHERE name = 'settings' FOR UPDATE");
  if ((row?.value ?? 0) !== version)
    throw new Problem('stale', 'Somebody else has changed the settings meanwhile. Look at what is there now.', {
      current: await settingsOf(ctx.store, ctx.tx),
      yours,
    });
  await ctx.raise('settings');
}

const keepSetting = (ctx: Context, name: string, value: unknown) =>
  ctx.store.db.query('REPLACE INTO setting (name, value) VALUES (?, ?)', {
    replacements: [name, JSON.stringify(value)],
    transaction: ctx.tx,
  });

/** What a setting says may stand in what is kept ready of every work. */
async function touchAll(ctx: Context): Promise<void> {
  for (const { id } of await ctx.select<{ id: Id }>('SELECT id FROM work')) ctx.touchedWorks.add(id);
}

export async function saveNumbers(ctx: Context, { version, ...values }: SaveNumbers): Promise<object> {
  if (values.crucibleUsableKg > values.crucibleHoldsKg)
    throw invalid({ crucibleUsableKg: `must be at most what the crucible holds, ${values.crucibleHoldsKg} kg` });
  await claimSettings(ctx, version, values);
  for (const [name, value] of Object.entries(values)) await keepSetting(ctx, name, value);
  await touchAll(ctx);
  ctx.event = { verb: 'change settings', text: 'The shop’s numbers changed' };
  return {};
}

/** Enters the shop's own times of one kind of step. They count at once, for what is judged and what is planned. */
export async function saveTimes(ctx: Context, { version, kind, times }: SaveTimes): Promise<object> {
  const settings = await settingsOf(ctx.store, ctx.tx);
  const { minutes, minWait, maxWait } = timesOf(kind, { [kind]: times });
  if (maxWait !== null && maxWait < minWait)
    throw invalid({ maxWait: `must be at least the minimum wait, ${minWait} min` });
  const { room, spans } = STEP_KINDS[kind];
  const counted = STEP_KINDS[kind].through === 'heat' ? 'crucible' : 'people';
  const hands = (await loadRows<Resource>(ctx.store, 'resources', { kind: counted, room }, ctx.tx))[0];
  const hours = hands && (await ctx.find<Calendar>('calendars', hands.calendarId));
  if (spans === 'unbroken' && hours && !hours.always && minutes > longestOpen(hours.weekly))
    throw invalid({ minutes: `must fit without a break into ${hours.name}: at most ${longestOpen(hours.weekly)} min` });
  await claimSettings(ctx, version, times);
  const { [kind]: _, ...others } = settings.routeTimes;
  await keepSetting(ctx, 'routeTimes', Object.keys(times).length > 0 ? { ...others, [kind]: times } : others);
  await touchAll(ctx);
  ctx.event = { verb: 'change settings', text: `${STEP_KINDS[kind].name}: times changed` };
  return {};
}

/** Says when a step shall be done, or takes that off again. */
export async function pinStep(ctx: Context, id: Id, given: SavePin): Promise<{ stepId: Id }> {
  if ((given.kind === null) !== (given.at === null))
    throw invalid({ at: 'a pin needs its time, and only a pin has one' });
  const found = await ctx.find<Step>('steps', id);
  if (!found) throw notFound('step');
  const index = await lockShop(ctx, await worksOf(ctx, found.carrier, found.carrierId));
  const step = await ctx.claim<Step>('steps', id, given.version, 'step', given);
  if (!isOpen(step) || step.state === 'running')
    throw refused([{ rule: 'closed', message: `${stepLabel(index, step)} is ${step.state}.`, mayOverride: false }]);
  if (given.kind === 'at' && given.at! < ctx.now) throw invalid({ at: 'lies behind us' });
  if (given.at !== null && Date.parse(given.at) - Date.parse(ctx.now) > PLANNED_AHEAD_MINUTES * 60_000)
    throw invalid({ at: 'lies further ahead than anything is planned (three years)' });
  await ctx.update('steps', step, { pinKind: given.kind, pinAt: given.at });
  concernStep(ctx, index, step);
  ctx.event = {
    verb: 'pin step',
    text: given.kind
      ? `${stepLabel(index, step)}: pinned ${given.kind} ${given.at!.slice(0, 16).replace('T', ' ')} UTC`
      : `${stepLabel(index, step)}: pin taken off`,
    room: roomOfStep(index, step),
  };
  return { stepId: id };
}
