import type {
  Calendar,
  Id,
  PlanningAnswer,
  Resource,
  SaveCalendar,
  SaveNumbers,
  SaveResource,
  SaveTimes,
} from '@kalvet/core';
import { KINDS, kg, kindOf, longestOpen, say, timesOf } from '@kalvet/core';
import { claimSettings, keepSetting } from '../people/keep-settings.ts';
import { settingsOf } from '../people/settings.ts';
import { rowsOf } from '../db/rows.ts';
import type { Context } from '../write/context.ts';
import { invalid } from '../write/problem.ts';
import type { Store } from '../write/store.ts';

/** Everything the planner counts with. */
export async function planning(store: Store): Promise<PlanningAnswer> {
  const settings = await settingsOf(store);
  const calendars = await rowsOf<Calendar>(store, 'calendars', {});
  const resources = await rowsOf<Resource>(store, 'resources', {});
  const [counter] = await rowsOf<{ value: number }>(store, 'counters', { name: 'settings' });
  return {
    settings,
    settingsVersion: counter?.value ?? 0,
    calendars: calendars.sort((a, b) => a.id.localeCompare(b.id)),
    resources: resources.sort((a, b) => a.id.localeCompare(b.id)),
    kinds: KINDS.filter(({ carrier }) => carrier !== 'load' && carrier !== 'heat').map((kind) => ({
      kind: kind.code,
      name: kind.name,
      room: kind.room,
      usual: timesOf(kind, undefined),
      own: settings.routeTimes[kind.code] ?? {},
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
  const { routeTimes } = await ctx.settings();
  for (const user of users) {
    if (user.kind === 'kiln') continue;
    const kind = KINDS.find(
      (each) => each.room === user.room && each.spans === 'unbroken' && timesOf(each, routeTimes).minutes > longest,
    );
    if (kind)
      throw invalid({
        weekly: `${kind.name} takes ${timesOf(kind, routeTimes).minutes} min without a break; these hours have ${longest} at most`,
      });
  }
}

/** Enters a calendar, new or changed; used by the next plan at once. */
export async function saveCalendar(ctx: Context, given: SaveCalendar): Promise<{ id: Id }> {
  ctx.may('change settings');
  const { version, ...rest } = given;
  const users = await rowsOf<Resource>(ctx.store, 'resources', { calendarId: given.id }, ctx.tx);
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
  ctx.may('change settings');
  const before = await ctx.claim<Resource>('resources', id, version, 'entry', patch);
  const calendar = await ctx.find<Calendar>('calendars', patch.calendarId);
  if (!calendar) throw invalid({ calendarId: 'there are no such hours' });
  await judgeHours(ctx, calendar, [before]);
  await ctx.update('resources', before, patch);
  ctx.event = { verb: 'change settings', text: `${before.name}: ${patch.count}, ${calendar.name}` };
  return { id };
}

/**
 * What a setting says may stand in what is kept ready of every work. The settings are taken by now: whoever records has
 * ended, or begins when this write has; so the works are read as they will stay.
 */
async function touchAll(ctx: Context): Promise<void> {
  for (const { id } of await ctx.rows<{ id: Id }>('works', {}, { order: [['id', 'ASC']], lock: true }))
    ctx.touchedWorks.add(id);
}

/** Enters the shop's numbers and its clock. */
export async function saveNumbers(ctx: Context, { version, typed, ...values }: SaveNumbers): Promise<object> {
  if (values.crucibleUsableKg > values.crucibleHoldsKg)
    throw invalid({ crucibleUsableKg: say`must be at most what the crucible holds, ${kg(values.crucibleHoldsKg, 0)}` });
  ctx.may('change settings');
  await claimSettings(ctx, version, values);
  for (const [name, value] of Object.entries({ ...values, typed: typed ?? {} })) await keepSetting(ctx, name, value);
  await touchAll(ctx);
  ctx.event = { verb: 'change settings', text: 'The shop’s numbers changed' };
  return {};
}

/** Enters the shop's own times of one kind of step. They count at once, for what is judged and what is planned. */
export async function saveTimes(ctx: Context, { version, kind, times }: SaveTimes): Promise<object> {
  ctx.may('change settings');
  await claimSettings(ctx, version, times);
  const settings = await ctx.settings();
  const of = kindOf(kind);
  const { minutes, minWait, maxWait } = timesOf(of, { [kind]: times });
  if (maxWait !== null && maxWait < minWait)
    throw invalid({ maxWait: `must be at least the minimum wait, ${minWait} min` });
  const { room, spans } = of;
  const counted = of.through === 'heat' ? 'crucible' : 'people';
  const hands = (await rowsOf<Resource>(ctx.store, 'resources', { kind: counted, room }, ctx.tx))[0];
  const hours = hands && (await ctx.find<Calendar>('calendars', hands.calendarId));
  if (spans === 'unbroken' && hours && !hours.always && minutes > longestOpen(hours.weekly))
    throw invalid({ minutes: `must fit without a break into ${hours.name}: at most ${longestOpen(hours.weekly)} min` });
  const { [kind]: _, ...others } = settings.routeTimes;
  await keepSetting(ctx, 'routeTimes', Object.keys(times).length > 0 ? { ...others, [kind]: times } : others);
  await touchAll(ctx);
  ctx.event = { verb: 'change settings', text: `${of.name}: times changed` };
  return {};
}
