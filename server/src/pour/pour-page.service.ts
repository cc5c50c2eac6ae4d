import { dayIn } from '@kalvet/core';
import type { ComingTree, Id, PlannedLoad, PourAnswer, PourTreeView, TreeLine, TreeReady } from '@kalvet/core';
import { addMinutes, alloyOf, kindOf, meltMinutes } from '@kalvet/core';
import { changeNumber } from '../live/changes.ts';
import { settingsOf } from '../people/settings.ts';
import { plannedLoads } from '../plan/plan-page.service.ts';
import { pourDays } from '../plan/open-days.ts';
import { currentPlan } from '../plan/read-plan.ts';
import type { TreeStored } from '../shop/stored.ts';
import { stored } from '../shop/stored.ts';
import type { Server } from '../http/request.ts';
import { metalShorts } from '../stores/metal-page.service.ts';
import { pastHeats } from './heat-record.service.ts';
import { askedOfHeats } from './heat-questions.ts';
import { earlyLooks } from './early-looks.ts';
import { heatFigures } from './heat-figures.ts';
import { openHeats } from './heat-read.service.ts';
import { wetTrees } from './wet-trees.ts';

/** The pour days: heats with their trees in order, what waits for a heat, windows, and when to light the furnace. */
export async function pourPage(server: Server): Promise<PourAnswer> {
  const { store, now } = server;
  const change = await changeNumber(store);
  const settings = await settingsOf(store);
  const heats = await openHeats(store);
  const trees = await stored<TreeStored>(store, 'tree');
  const placed = new Set(heats.flatMap(({ pourings }) => pourings.map(({ treeId }) => treeId)));
  const inPour = [...trees].filter(([id, { next }]) => next && kindOf(next.kind).through === 'heat' && !placed.has(id));
  const wet = await wetTrees(
    store,
    inPour.map(([id]) => id),
  );
  const { stand: plan, ready } = await currentPlan(store);
  const next = proposed(await plannedLoads(store, plan.planId), placed);
  const figures = await heatFigures(store, {
    heats,
    alsoTrees: inPour.map(([id]) => id),
    pours: next.map(({ startsAt }) => startsAt),
  });
  const { windowOf, lightAt, furnace } = figures;
  const waiting = inPour.map(([treeId, tree]): PourTreeView => {
    const line: TreeLine = { ...tree.next!, pieceIds: tree.pieceIds, alloyId: tree.alloyId, pourKg: tree.pourKg };
    return { ...line, window: windowOf(treeId, tree.alloyId), wet: wet.has(treeId) };
  });
  const day = dayIn(now(), settings.timeZone);
  return {
    change,
    now: now(),
    plan,
    heats: heats
      .map(figures.view)
      .sort((a, b) => (a.plannedFor ?? '9').localeCompare(b.plannedFor ?? '9') || a.number - b.number),
    waiting: waiting.sort(
      (a, b) => a.waits.length - b.waits.length || (a.readyAt ?? '9').localeCompare(b.readyAt ?? '9'),
    ),
    proposed: next.map((load) => ({
      ...load,
      melt: meltMinutes(load.kg ?? 0, alloyOf(load.alloyId!), furnace),
      lightAt: lightAt(load.startsAt, load.kg ?? 0, load.alloyId!),
    })),
    ...(await askedOfHeats(store, { now: now(), heats, trees, ready, notes: plan.notes })),
    ready: Object.fromEntries([...ready].filter(([id]) => placed.has(id))),
    coming: comingTrees(trees, ready, new Set([...placed, ...inPour.map(([id]) => id)])),
    looks: await earlyLooks(store),
    past: await pastHeats(store),
    shorts: await metalShorts(server),
    pourDays: await pourDays(store, day, dayIn(addMinutes(now(), 28 * 1440), settings.timeZone)),
  };
}

/** As many as anybody looks through for something that would fill a heat. */
const MOST_COMING = 60;

/** Trees on their way to the pour that stand in no heat, with when they could be poured. */
function comingTrees(
  trees: ReadonlyMap<Id, TreeStored>,
  ready: ReadonlyMap<Id, TreeReady>,
  without: ReadonlySet<Id>,
): ComingTree[] {
  return [...trees]
    .flatMap(([treeId, { next, alloyId, pourKg }]): ComingTree[] => {
      const found = ready.get(treeId);
      if (!next || !found || without.has(treeId) || found.from === null) return [];
      return [{ treeId, label: next.on, stepId: next.stepId, alloyId, pourKg, ready: found }];
    })
    .sort((a, b) => a.ready.from!.localeCompare(b.ready.from!))
    .slice(0, MOST_COMING);
}

/** The plan's next heats, as far as their trees stand in no heat yet. */
function proposed(loads: readonly PlannedLoad[], placed: ReadonlySet<Id>): PlannedLoad[] {
  return loads
    .filter(
      ({ kind, treeIds, alloyId }) => kind === 'heat' && alloyId !== null && !treeIds.some((id) => placed.has(id)),
    )
    .slice(0, 4);
}
