import type {
  AlloyBalance,
  ComingHeat,
  Crucible,
  CrucibleLook,
  HeatAnswer,
  HeatKg,
  Id,
  Instant,
  MetalAnswer,
  MetalRecords,
  Movement,
  PlannedLoad,
  Pouring,
  ShopSettings,
  Tree,
  TreeKg,
} from '@kalvet/core';
import {
  alloyBalance,
  charge,
  comesBackShare,
  counted,
  firstShorts,
  lotsLeft,
  metalMovements,
  metalNeeds,
  metalStock,
} from '@kalvet/core';
import { rowsOf } from '../db/rows.ts';
import type { Server } from '../http/request.ts';
import { changeNumber } from '../live/changes.ts';
import { settingsOf } from '../people/settings.ts';
import { plannedLoads } from '../plan/plan-page.service.ts';
import { currentPlan } from '../plan/read-plan.ts';
import { openHeats } from '../pour/heat-read.service.ts';
import { treesCame } from '../pour/trees-came-read.service.ts';
import type { Store } from '../write/store.ts';
import { metalRecords, potsOf } from './metal-read.service.ts';

/** As many movements as anybody looks through. */
const MOST_MOVEMENTS = 120;

/** Trees that were poured, with what came of them. */
async function treesPoured(store: Store, pourings: readonly Pouring[]): Promise<TreeKg[]> {
  const poured = pourings.filter(({ pouredKg }) => pouredKg !== null);
  const ids = poured.map(({ treeId }) => treeId);
  const [trees, came] = await Promise.all([rowsOf<Tree>(store, 'trees', { id: ids }), treesCame(store, ids)]);
  const alloyOfTree = new Map(trees.map(({ id, alloyId }) => [id, alloyId]));
  return poured.map(({ treeId, pouredKg }): TreeKg => {
    const found = came.get(treeId);
    return {
      alloyId: alloyOfTree.get(treeId) ?? '',
      pouredKg: pouredKg!,
      castsKg: found?.castsKg ?? null,
      returnsKg: found?.returnsKg ?? null,
    };
  });
}

/** Every alloy's kilograms from the first delivery to now. */
export async function alloyBalances(
  store: Store,
  records: MetalRecords,
  movements: readonly Movement[],
): Promise<AlloyBalance[]> {
  const melted = records.heats.filter(
    ({ state, startedAt }) => state === 'running' || state === 'done' || startedAt !== null,
  );
  const pourings = await rowsOf<Pouring>(store, 'pourings', { heatId: melted.map(({ id }) => id) });
  const sum = (heatId: Id, of: readonly { heatId: Id; kg: number }[]) =>
    of.filter((each) => each.heatId === heatId).reduce((total, { kg }) => total + kg, 0);
  const poured = pourings.map(({ heatId, pouredKg }) => ({ heatId, kg: pouredKg ?? 0 }));
  const heats = melted.map(({ id, alloyId, state, pigKg }): HeatKg => ({
    alloyId,
    chargeKg: sum(id, records.chargeLines),
    pouredKg: sum(id, poured),
    pigKg: state === 'done' ? (pigKg ?? 0) : null,
  }));
  const trees = await treesPoured(store, pourings);
  const alloyIds = [...new Set(movements.map(({ alloyId }) => alloyId))];
  return alloyIds.map((alloyId) => alloyBalance(alloyId, { movements, heats, trees }));
}

/** Heats that are to come: people's, and the plan's of trees that stand in none. */
function coming(
  heats: readonly HeatAnswer[],
  loads: readonly PlannedLoad[],
  settings: ShopSettings,
  backOf: (alloyId: string) => number,
): ComingHeat[] {
  const placed = new Set(heats.flatMap(({ pourings }) => pourings.map(({ treeId }) => treeId)));
  const heat = (at: Instant, alloyId: string, heatId: Id | null, label: string, chargeKg: number): ComingHeat => ({
    at,
    alloyId,
    heatId,
    label,
    chargeKg,
    comesBackKg: chargeKg * backOf(alloyId),
  });
  const ours = heats.flatMap(({ id, number, alloyId, plannedFor, state, charge: asked, chargeLines }) => {
    if (plannedFor === null || state === 'running') return [];
    const own = heat(plannedFor, alloyId, id, `H-${number}`, asked.value);
    const returns = chargeLines.filter(({ what }) => what === 'returns').reduce((sum, { kg }) => sum + kg, 0);
    return chargeLines.length === 0 ? [own] : [{ ...own, saidReturnsKg: returns }];
  });
  const { pigReserveKg, meltLoss, crucibleUsableKg: usableKg, crucibleHoldsKg: holdsKg } = settings;
  const planned = loads.flatMap(({ kind, alloyId, startsAt, treeIds, kg, labels }) => {
    if (kind !== 'heat' || alloyId === null || kg === null || treeIds.some((id) => placed.has(id))) return [];
    const asked = charge({ pourWeightsKg: [kg], pigReserveKg, meltLoss, usableKg, holdsKg });
    return [heat(startsAt, alloyId, null, `planned, ${counted(labels.length, 'tree')}`, asked.charge.value)];
  });
  return [...ours, ...planned];
}

/** Stock, and what the coming heats take of it. */
async function needsOf({ store, now }: Server, records: MetalRecords) {
  const [settings, heats, plan] = await Promise.all([settingsOf(store), openHeats(store), currentPlan(store)]);
  const movements = metalMovements(records);
  const stock = metalStock(movements);
  const loads = (await plannedLoads(store, plan.stand.planId)).filter(({ startsAt }) => startsAt >= now());
  const back = (alloyId: string) => comesBackShare(alloyId, movements);
  const needs = metalNeeds(stock, coming(heats, loads, settings, back), settings.returnsShare);
  return { movements, stock, needs, shorts: stock.length === 0 ? [] : firstShorts(needs) };
}

/** The first heat of each alloy for which metal is missing. */
export const metalShorts = async (server: Server): Promise<MetalAnswer['shorts']> =>
  (await needsOf(server, await metalRecords(server.store))).shorts;

/** Metal that is there, came and went, and what the coming heats take of it. */
export async function metalPage(server: Server): Promise<MetalAnswer> {
  const { store } = server;
  const records = await metalRecords(store);
  const [change, pots, crucibles, looks, { movements, stock, needs, shorts }] = await Promise.all([
    changeNumber(store),
    potsOf(store),
    rowsOf<Crucible>(store, 'crucibles', {}),
    rowsOf<CrucibleLook>(store, 'crucibleLooks', {}),
    needsOf(server, records),
  ]);
  const left = lotsLeft(records.lots, movements);
  const potOf = new Map(pots.map((pot) => [pot.id, pot]));
  return {
    change,
    stock,
    needs,
    shorts,
    balance: await alloyBalances(store, records, movements),
    lots: [...records.lots].sort((a, b) => b.number - a.number).map((lot) => ({ ...lot, leftKg: left.get(lot.id)! })),
    crucibles: crucibles
      .sort((a, b) => a.number - b.number)
      .map((pot) => ({
        ...pot,
        heats: potOf.get(pot.id)?.heats ?? pot.heatsBefore,
        lastAlloyId: potOf.get(pot.id)?.alloyIds.at(-1) ?? null,
        looks: looks.filter(({ crucibleId }) => crucibleId === pot.id).sort((a, b) => b.at.localeCompare(a.at)),
      })),
    movements: [...movements].reverse().slice(0, MOST_MOVEMENTS),
  };
}
