import type { HeatView, PracticeAnswer, PracticeOutcome, RehearsedTree, ShopSettings } from '@kalvet/core';
import { alloyOf, coolingPerMinOf, rehearsalOutcome, toMs } from '@kalvet/core';
import type { Practice, Server } from '../http/request.ts';
import { settingsOf } from '../people/settings.ts';
import type { Store } from '../write/store.ts';
import { notFound } from '../write/problem.ts';
import { heatFigures } from './heat-figures.ts';
import { openHeats } from './heat-read.service.ts';
import { thinnestWalls } from './thinnest-walls.ts';

/** Where a rehearsal stands: what it is about, what has happened so far, and, once every tree is said, what came of it. */
export async function practiceAnswer({ store, now, practice }: Server): Promise<PracticeAnswer> {
  if (!practice) throw notFound('rehearsal');
  const { scenario, startedAt } = practice;
  // A practice shop has one heat.
  const [heat] = await openHeats(store, await heatIds(store));
  if (!heat) throw notFound('heat');
  const view = (await heatFigures(store, { heats: [heat] })).view(heat);
  const seconds = startedAt === null ? -1 : (toMs(now()) - toMs(startedAt)) / 1000;
  const isOver = heat.pourings.every(({ outcome }) => outcome !== null);
  const { id, title, about } = scenario;
  return {
    scenario: { id, title, about },
    heatId: heat.id,
    now: now(),
    startedAt,
    events: scenario.events.filter(({ atS }) => atS <= seconds),
    outcome: isOver && startedAt !== null ? await outcomeOf(store, view, practice, await settingsOf(store)) : null,
  };
}

async function heatIds(store: Store): Promise<string[]> {
  const rows = (await store.models.heats.findAll({
    attributes: ['id'],
    order: [['number', 'DESC']],
    limit: 1,
    raw: true,
  })) as unknown as {
    id: string;
  }[];
  return rows.map(({ id }) => id);
}

/** What came of the trees, from what was recorded of them. */
export async function outcomeOf(
  store: Store,
  heat: HeatView,
  { scenario, fast, startedAt }: Practice,
  { transferK, crucibleLossK }: ShopSettings,
): Promise<PracticeOutcome[]> {
  const walls = await thinnestWalls(
    store,
    heat.pourings.map(({ treeId }) => treeId),
  );
  const after = (at: string) => (toMs(at) - toMs(startedAt!)) / 1000;
  const trees = heat.pourings.map(
    ({ treeId, label, order, plannedKg, outcome, startedAt: at, outAt, seconds }): RehearsedTree => {
      const beginsS = at === null ? Infinity : after(at);
      return {
        treeId,
        label,
        order,
        kg: plannedKg,
        wallMm: walls.get(treeId)!.wallMm,
        shellMm: heat.kilnOut[treeId]?.wallMm ?? 8,
        poured: outcome !== 'not poured',
        beginsS: Number.isFinite(beginsS) ? beginsS : 0,
        outS: at === null || outAt === null ? null : Math.max(0, (toMs(at) - toMs(outAt)) / 1000),
        seconds,
      };
    },
  );
  const given = {
    alloy: alloyOf(heat.alloyId),
    furnaceC: furnaceOf(heat),
    transferK,
    coolingPerMin: coolingPerMinOf(crucibleLossK),
    fast,
  };
  return rehearsalOutcome(trees, given, scenario);
}

/** What the furnace had at the beginning: the largest of its cups' targets, with what is lost on the way to the first. */
const furnaceOf = ({ windows }: HeatView): number =>
  Math.max(...Object.values(windows).map(({ cup }) => cup.value)) + PRACTICE_ABOVE_K;

/** So much above its hottest cup the metal of a rehearsal stands: what pouring over costs, and a little time. */
export const PRACTICE_ABOVE_K = 55;
