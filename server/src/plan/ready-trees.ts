import type { Calendar, Id, Instant, PlanSnapshot, Resource, ShopIndex, TreeReady } from '@kalvet/core';
import { pourReady } from '@kalvet/core';
import type { Context } from '../write/context.ts';
import { WallClock } from './wall-clock.ts';

/** From when trees can be poured, in instants. */
export const readyTrees = (snapshot: PlanSnapshot, clock: WallClock, treeIds: readonly Id[]): Map<Id, TreeReady> =>
  new Map(
    [...pourReady(snapshot, treeIds)].map(([id, { from, ...rest }]) => [
      id,
      { ...rest, from: from === null ? null : clock.instantOf(from) },
    ]),
  );

/** The same as a write sees it: by the records that it holds, whatever the plan in use was made from. */
export async function readyInWrite(
  ctx: Context,
  index: ShopIndex,
  treeIds: readonly Id[],
  now: Instant,
): Promise<Map<Id, TreeReady>> {
  const settings = await ctx.settings();
  const clock = new WallClock(now, settings.timeZone);
  const snapshot: PlanSnapshot = {
    index,
    settings,
    calendars: await ctx.rows<Calendar>('calendars', {}),
    resources: await ctx.rows<Resource>('resources', {}),
    startDay: clock.startDay,
    minuteOf: clock.minuteOf,
    now,
  };
  return readyTrees(snapshot, clock, treeIds);
}
