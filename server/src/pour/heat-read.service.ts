import type { ChargeLine, Heat, HeatAnswer, HeatLine, Id, NextStep, Pouring, ShopSettings, Tree } from '@kalvet/core';
import { carriedEach } from '@kalvet/core';
import { QueryTypes } from 'sequelize';
import { settingsOf } from '../people/settings.ts';
import { loadRows } from '../shop/load.ts';
import type { TreeStored } from '../shop/stored.ts';
import { stored } from '../shop/stored.ts';
import type { Store } from '../write/context.ts';
import { chargeOf } from './heat.service.ts';

/** Clean returns of an alloy that are at hand: pigged and cut off, less what was charged since. */
export async function returnsAtHand(store: Store, alloyId: string): Promise<number> {
  const [row] = await store.db.query<{ pig: number | null; cut: number | null; used: number | null }>(
    `SELECT (SELECT SUM(pigKg) FROM heat WHERE alloyId = :alloyId AND state = 'done') AS pig,
            (SELECT SUM(JSON_VALUE(s.readings, '$.returnsKg') + 0) FROM step s JOIN tree t ON t.id = s.treeId
              WHERE s.kind = 'knock-out' AND s.state = 'done' AND t.alloyId = :alloyId) AS cut,
            (SELECT SUM(l.kg) FROM charge_line l JOIN heat h ON h.id = l.heatId
              WHERE l.what = 'returns' AND l.alloyId = :alloyId AND h.state IN ('charged','running','done')) AS used`,
    { replacements: { alloyId }, type: QueryTypes.SELECT },
  );
  return Math.max(0, Number(row?.pig ?? 0) + Number(row?.cut ?? 0) - Number(row?.used ?? 0));
}

/** Said where those who carry the crucible would lift more than one person may. */
function liftWarning({ crucibleKg, tongsKg, carriers, liftLimitKg }: ShopSettings, metalKg: number): string[] {
  const each = carriedEach(crucibleKg, metalKg, tongsKg, carriers);
  if (each.value <= liftLimitKg) return [];
  return [
    `Carried by ${carriers}: ${each.value.toFixed(0)} kg each, ${each.inWords}, over the lift limit of ${liftLimitKg} kg. Use the hoist; your local rules and a competent person decide.`,
  ];
}

/** The pour that each tree still has before it, also where a test or firing comes first: its heat can be charged by then. */
async function pourSteps(store: Store, treeIds: readonly Id[]): Promise<Map<Id, Id>> {
  if (treeIds.length === 0) return new Map();
  const rows = await store.db.query<{ id: Id; treeId: Id }>(
    "SELECT id, treeId FROM step WHERE kind = 'pour' AND state IN ('planned','running') AND treeId IN (:treeIds)",
    { replacements: { treeIds }, type: QueryTypes.SELECT },
  );
  return new Map(rows.map(({ id, treeId }) => [treeId, id]));
}

/** The heats that are planned or running, with their charge worked out. */
export async function openHeats(store: Store, ids?: readonly Id[]): Promise<HeatAnswer[]> {
  const heats = await loadRows<Heat>(store, 'heats', ids ? { id: ids } : { state: ['planned', 'charged', 'running'] });
  const heatIds = heats.map(({ id }) => id);
  const pourings = (await loadRows<Pouring>(store, 'pourings', { heatId: heatIds })).sort((a, b) => a.order - b.order);
  const lines = await loadRows<ChargeLine>(store, 'chargeLines', { heatId: heatIds });
  const trees = await stored<TreeStored>(
    store,
    'tree',
    pourings.map(({ treeId }) => treeId),
  );
  // What is knocked out already is called by its number alone.
  const rows = await loadRows<Tree>(store, 'trees', { id: pourings.map(({ treeId }) => treeId) });
  const numbers = new Map(rows.map(({ id, number }) => [id, number]));
  const steps = await pourSteps(store, [...numbers.keys()]);
  const settings = await settingsOf(store);
  return Promise.all(
    heats.map(async (heat): Promise<HeatAnswer> => {
      const mine = pourings.filter(({ heatId }) => heatId === heat.id);
      const found = chargeOf(
        heat,
        mine.map(({ plannedKg }) => plannedKg),
        await returnsAtHand(store, heat.alloyId),
        settings.returnsShare,
      );
      const {
        id,
        number,
        alloyId,
        state,
        plannedFor,
        holdsKg,
        usableKg,
        leadId,
        crew,
        signs,
        coverConfirmedById,
        pigKg,
        reason,
        version,
      } = heat;
      return {
        id,
        number,
        alloyId,
        state,
        plannedFor,
        holdsKg,
        usableKg,
        leadId,
        crew,
        signs,
        coverConfirmedById,
        pigKg,
        reason,
        version,
        pourings: mine.map((pouring) => {
          const next: NextStep | null = trees.get(pouring.treeId)?.next ?? null;
          return {
            id: pouring.id,
            treeId: pouring.treeId,
            stepId: steps.get(pouring.treeId) ?? null,
            label: next?.on ?? `T-${numbers.get(pouring.treeId) ?? '?'}`,
            order: pouring.order,
            plannedKg: pouring.plannedKg,
            pouredKg: pouring.pouredKg,
            outcome: pouring.outcome,
          };
        }),
        chargeLines: lines
          .filter(({ heatId }) => heatId === id)
          .map(({ what, alloyId: of, kg, lot, dry }) => ({ what, alloyId: of, kg, lot, dry })),
        charge: found.charge,
        freeKg: found.freeKg,
        returnsKg: found.returnsKg,
        ingotKg: found.ingotKg,
        warnings: [
          ...(found.tooLittle ? ['A small charge melts badly in this crucible: what else would fill the heat?'] : []),
          ...liftWarning(settings, found.charge.value),
        ],
      };
    }),
  );
}

/** The same, as short as the strip shows it. */
export const heatLine = (heat: HeatAnswer): HeatLine => ({
  id: heat.id,
  number: heat.number,
  alloyId: heat.alloyId,
  state: heat.state,
  plannedFor: heat.plannedFor,
  usableKg: heat.usableKg,
  metalKg: heat.charge.value,
  trees: heat.pourings.map(({ treeId, label, plannedKg, outcome }) => ({
    treeId,
    label,
    plannedKg,
    outcome,
  })),
});
