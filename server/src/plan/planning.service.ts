import type {
  Calendar,
  Day,
  Id,
  Instant,
  KilnProfile,
  PlanningAnswer,
  Resource,
  KindTimes,
  SaveCalendar,
  SaveResource,
  SaveSettings,
  Staffing,
  StepKind,
  StepKindCode,
  Text,
} from '@kalvet/core';
import {
  KINDS,
  counted,
  dayIn,
  firingMinutes,
  joined,
  kg,
  kindOf,
  longestFor,
  longestOpen,
  say,
  timesOf,
} from '@kalvet/core';
import { Op } from 'sequelize';
import { claimSettings, keepSetting } from '../people/keep-settings.ts';
import { settingsOf } from '../people/settings.ts';
import { touchAllWorks } from '../people/touch-works.ts';
import { rowsOf } from '../db/rows.ts';
import { learnedIn } from '../shop/learned.ts';
import type { Context } from '../write/context.ts';
import { invalid } from '../write/problem.ts';
import type { Store } from '../write/store.ts';

/** Everything the planner counts with. */
export async function planning(store: Store, now: Instant): Promise<PlanningAnswer> {
  const settings = await settingsOf(store);
  const today = dayIn(now, settings.timeZone);
  const calendars = await rowsOf<Calendar>(store, 'calendars', {});
  const resources = await rowsOf<Resource>(store, 'resources', {});
  const learned = await learnedIn(store);
  const profiles = await rowsOf<KilnProfile>(store, 'profiles', {});
  const firingOf = ({ kiln }: StepKind): number | null => {
    const profile = kiln && longestFor(profiles, kiln);
    return profile ? firingMinutes(profile) : null;
  };
  const [counter] = await rowsOf<{ value: number }>(store, 'counters', { name: 'settings' });
  return {
    settings,
    settingsVersion: counter?.value ?? 0,
    calendars: calendars.sort((a, b) => a.id.localeCompare(b.id)),
    resources: resources.sort((a, b) => a.id.localeCompare(b.id)),
    staffing: await staffingAhead(store, today),
    kinds: KINDS.filter(({ carrier }) => carrier !== 'load' && carrier !== 'heat').map((kind) => ({
      kind: kind.code,
      name: kind.name,
      room: kind.room,
      usual: timesOf(kind, undefined),
      own: settings.routeTimes[kind.code] ?? {},
      bySize: kind.effort !== undefined,
      firing: firingOf(kind),
      learned: learned.get(kind.code) ?? null,
    })),
  };
}

/** Hands more or fewer from today on, the soonest first. */
async function staffingAhead(store: Store, today: Day): Promise<Staffing[]> {
  const all = await rowsOf<Staffing>(store, 'staffing', { to: { [Op.gte]: today } });
  return all.sort((a, b) => a.from.localeCompare(b.from) || a.to.localeCompare(b.to));
}

/** The longest that can be worked without a break in some hours, and what of the route would no longer fit. */
async function judgeHours(
  ctx: Context,
  calendar: Pick<Calendar, 'always' | 'weekly'>,
  users: readonly Resource[],
  field = 'weekly',
) {
  if (calendar.always || users.length === 0) return;
  const longest = longestOpen(calendar.weekly);
  if (longest === 0)
    throw invalid({
      [field]: `${users.map(({ name }) => name).join(', ')} would never be open: give at least one window`,
    });
  const { routeTimes } = await ctx.settings();
  for (const user of users) {
    if (user.kind === 'kiln') continue;
    const kind = KINDS.find(
      (each) => each.room === user.room && each.spans === 'unbroken' && timesOf(each, routeTimes).minutes > longest,
    );
    if (kind)
      throw invalid({
        [field]: `${kind.name} takes ${timesOf(kind, routeTimes).minutes} min without a break; these hours have ${longest} at most`,
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

/** Changes settings: whatever is given of them, all or nothing. They count at once, for what is judged and what is planned. */
export async function saveSettings(ctx: Context, given: SaveSettings): Promise<object> {
  ctx.may('change settings');
  await claimSettings(ctx, given.version, given);
  const said: Text[] = [];
  if (given.numbers) said.push(await saveNumbers(ctx, given.numbers));
  for (const [place, resource] of (given.resources ?? []).entries())
    said.push(await saveResource(ctx, resource, `resources.${place}`));
  for (const [kind, times] of Object.entries(given.times ?? {})) said.push(await saveTimes(ctx, kind, times));
  if (given.cups) {
    await keepSetting(ctx, 'cups', given.cups);
    said.push(`${counted(given.cups.length, 'cup')} to choose from`);
  }
  if (given.barStock) {
    await keepSetting(ctx, 'barStock', given.barStock);
    said.push(`${counted(given.barStock.length, 'stock')} of bars`);
  }
  if (given.pourCard) {
    await keepSetting(ctx, 'pourCard', given.pourCard);
    said.push('the pour’s card');
  }
  if (said.length === 0) throw invalid({ version: 'nothing is changed' });
  await touchAllWorks(ctx);
  ctx.event = { verb: 'change settings', text: joined(['Settings changed: ', joined(said, '; ')], '') };
  return {};
}

/** How many people, kilns or crucibles there are, their hours and what lies between two loads. */
async function saveResource(ctx: Context, { id, version, ...patch }: SaveResource, path: string): Promise<Text> {
  const before = await ctx.claim<Resource>('resources', id, version, 'entry', patch);
  const calendar = await ctx.find<Calendar>('calendars', patch.calendarId);
  if (!calendar) throw invalid({ [`${path}.calendarId`]: 'there are no such hours' });
  await judgeHours(ctx, calendar, [before], `${path}.calendarId`);
  await ctx.update('resources', before, patch);
  return `${before.name}: ${patch.count}, ${calendar.name}`;
}

/** The shop's numbers and its clock. */
async function saveNumbers(ctx: Context, { typed, ...values }: NonNullable<SaveSettings['numbers']>): Promise<Text> {
  if (values.crucibleUsableKg > values.crucibleHoldsKg)
    throw invalid({
      'numbers.crucibleUsableKg': say`must be at most what the crucible holds, ${kg(values.crucibleHoldsKg, 0)}`,
    });
  for (const [name, value] of Object.entries({ ...values, typed: typed ?? {} })) await keepSetting(ctx, name, value);
  return 'the shop’s numbers';
}

/** The shop's own times of one kind of step. */
async function saveTimes(ctx: Context, kind: StepKindCode, times: KindTimes): Promise<Text> {
  const settings = await ctx.settings();
  const of = kindOf(kind);
  const path = `times.${kind}`;
  const { minutes, minWait, maxWait } = timesOf(of, { [kind]: times });
  if (maxWait !== null && maxWait < minWait)
    throw invalid({ [`${path}.maxWait`]: `must be at least the minimum wait, ${minWait} min` });
  const { room, spans } = of;
  const hands = of.through === 'heat' ? 'crucible' : 'people';
  const working = (await rowsOf<Resource>(ctx.store, 'resources', { kind: hands, room }, ctx.tx))[0];
  const hours = working && (await ctx.find<Calendar>('calendars', working.calendarId));
  if (spans === 'unbroken' && hours && !hours.always && minutes > longestOpen(hours.weekly))
    throw invalid({
      [`${path}.minutes`]: `must fit without a break into ${hours.name}: at most ${longestOpen(hours.weekly)} min`,
    });
  const { [kind]: _, ...others } = settings.routeTimes;
  await keepSetting(ctx, 'routeTimes', Object.keys(times).length > 0 ? { ...others, [kind]: times } : others);
  return `times of ${of.name}`;
}
