import type { Furnace, Id, PlanLoad, PourAnswer, PourTreeView, PourWindow, TreeLine } from '@kalvet/core';
import { addMinutes, alloyOf, meltMinutes, pourWindow } from '@kalvet/core';
import { QueryTypes } from 'sequelize';
import { changeNumber } from '../live/changes.ts';
import { today } from '../people/clock.ts';
import { settingsOf } from '../people/settings.ts';
import { plannedLoads } from '../plan/plan-page.service.ts';
import { pourDays } from '../plan/open-days.ts';
import { currentPlan } from '../plan/read-plan.ts';
import type { TreeStored } from '../shop/stored.ts';
import { stored } from '../shop/stored.ts';
import type { Store } from '../write/context.ts';
import type { Server } from '../write/request.ts';
import { openHeats } from './heat-read.service.ts';

/** The pour days: heats with their trees in order, what waits for a heat, windows, and when to light the furnace. */
export async function pourPage({ store, now }: Server): Promise<PourAnswer> {
  const change = await changeNumber(store);
  const settings = await settingsOf(store);
  const furnace = { powerKw: settings.furnaceKw, efficiency: settings.furnaceEfficiency };
  const heats = await openHeats(store);
  const trees = await stored<TreeStored>(store, 'tree');
  const placed = new Set(heats.flatMap(({ pourings }) => pourings.map(({ treeId }) => treeId)));
  const inPour = [...trees].filter(([id, { next }]) => next?.kind === 'pour' && !placed.has(id));
  const walls = await thinnestWalls(store, [...inPour.map(([id]) => id), ...placed]);
  const windowOf = (treeId: Id, alloyId: string): PourWindow => {
    const wall = walls.get(treeId);
    return pourWindow(alloyOf(alloyId), wall?.method === 'block' ? 'block' : 'shell', wall?.wallMm ?? 5);
  };
  const waiting = inPour.map(([treeId, tree]): PourTreeView => {
    const line: TreeLine = { ...tree.next!, pieceIds: tree.pieceIds, alloyId: tree.alloyId, pourKg: tree.pourKg };
    return { ...line, window: windowOf(treeId, tree.alloyId), wet: false };
  });
  const plan = (await currentPlan(store)).stand;
  const day = today(now(), settings.timeZone);
  return {
    change,
    now: now(),
    plan,
    heats: heats
      .map((heat) => {
        const melt = meltMinutes(heat.charge.value, alloyOf(heat.alloyId), furnace);
        return {
          ...heat,
          melt,
          lightAt: heat.plannedFor && addMinutes(heat.plannedFor, -Math.ceil(melt.value)),
          windows: Object.fromEntries(heat.pourings.map(({ treeId }) => [treeId, windowOf(treeId, heat.alloyId)])),
        };
      })
      .sort((a, b) => (a.plannedFor ?? '9').localeCompare(b.plannedFor ?? '9') || a.number - b.number),
    waiting: waiting.sort(
      (a, b) => a.waits.length - b.waits.length || (a.readyAt ?? '9').localeCompare(b.readyAt ?? '9'),
    ),
    proposed: proposed(await plannedLoads(store, plan.planId), placed, furnace),
    pourDays: await pourDays(store, day, today(addMinutes(now(), 28 * 1440), settings.timeZone)),
  };
}

/** The plan's next heats, as far as their trees stand in no heat yet. */
function proposed(loads: readonly PlanLoad[], placed: ReadonlySet<Id>, furnace: Furnace): PourAnswer['proposed'] {
  return loads
    .filter(
      ({ kind, treeIds, alloyId }) => kind === 'heat' && alloyId !== null && !treeIds.some((id) => placed.has(id)),
    )
    .slice(0, 4)
    .map((load) => {
      const melt = meltMinutes(load.kg ?? 0, alloyOf(load.alloyId!), furnace);
      return { ...load, melt, lightAt: addMinutes(load.startsAt, -Math.ceil(melt.value)) };
    });
}

/** The thinnest wall that is to be filled on each tree, and how the tree is invested. */
async function thinnestWalls(
  store: Store,
  treeIds: readonly Id[],
): Promise<Map<Id, { readonly wallMm: number; readonly method: string }>> {
  if (treeIds.length === 0) return new Map();
  const rows = await store.db.query<{ treeId: Id; wallMm: number; method: string }>(
    `SELECT m.treeId, MIN(s.wallMm) AS wallMm, MIN(t.method) AS method FROM tree_cast m
       JOIN tree t ON t.id = m.treeId JOIN cast_ c ON c.id = m.castId JOIN section s ON s.id = c.sectionId
      WHERE m.treeId IN (:treeIds) AND m.until IS NULL GROUP BY m.treeId`,
    { replacements: { treeIds }, type: QueryTypes.SELECT },
  );
  return new Map(rows.map(({ treeId, wallMm, method }) => [treeId, { wallMm, method }]));
}
