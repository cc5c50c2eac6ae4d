import type { ChargeLine, Heat, HeatAnswer, HeatLine, Id, Pouring, ShopSettings, Step, Text, Tree } from '@kalvet/core';
import { KINDS, carriedEach, heatCharge, kg, metalForHeat, say } from '@kalvet/core';
import { settingsOf } from '../people/settings.ts';
import { COMING } from '../shop/load.ts';
import { rowsOf } from '../db/rows.ts';
import type { TreeStored } from '../shop/stored.ts';
import { stored } from '../shop/stored.ts';
import type { Store } from '../write/store.ts';
import { metalRecords } from '../stores/metal-read.service.ts';

/** Said where those who carry the crucible would lift more than one person may. */
function liftWarning({ crucibleKg, tongsKg, carriers, liftLimitKg }: ShopSettings, chargeKg: number): Text[] {
  // Where a hoist or a trolley moves it, nobody lifts.
  if (carriers === 0) return [];
  const each = carriedEach(crucibleKg, chargeKg, tongsKg, carriers);
  if (each.value <= liftLimitKg) return [];
  return [
    say`Carried by ${carriers}: ${kg(each.value, 0)} each, ${each.inWords}, over the lift limit of ${kg(liftLimitKg, 0)}. Use the hoist; your local rules and a competent person decide.`,
  ];
}

const IN_HEAT = KINDS.filter(({ through, carrier }) => through === 'heat' && carrier === 'tree').map(
  ({ code }) => code,
);

/** The pour that each tree still has before it, also where a test or firing comes first: its heat can be charged by then. */
async function pourSteps(store: Store, treeIds: readonly Id[]): Promise<Map<Id, Id>> {
  if (treeIds.length === 0) return new Map();
  const rows = await rowsOf<Step>(store, 'steps', {
    kind: IN_HEAT,
    state: ['planned', 'running'],
    treeId: treeIds,
  });
  return new Map(rows.map(({ id, carrierId }) => [carrierId, id]));
}

/** The heats that are planned or running, with their charge worked out. */
export async function openHeats(store: Store, ids?: readonly Id[]): Promise<HeatAnswer[]> {
  const heats = await rowsOf<Heat>(store, 'heats', ids ? { id: ids } : { state: COMING });
  const heatIds = heats.map(({ id }) => id);
  const [pourings, lines, settings] = await Promise.all([
    rowsOf<Pouring>(store, 'pourings', { heatId: heatIds }),
    rowsOf<ChargeLine>(store, 'chargeLines', { heatId: heatIds }),
    settingsOf(store),
  ]);
  const treeIds = pourings.map(({ treeId }) => treeId);
  const alloys = [...new Set(heats.map(({ alloyId }) => alloyId))];
  const [trees, rows, steps, metal] = await Promise.all([
    stored<TreeStored>(store, 'tree', treeIds),
    // What is knocked out already is called by its number alone.
    rowsOf<Tree>(store, 'trees', { id: treeIds }),
    pourSteps(store, treeIds),
    Promise.all(alloys.map(async (alloyId) => [alloyId, await metalRecords(store, alloyId)] as const)),
  ]);
  const numbers = new Map(rows.map(({ id, number }) => [id, number]));
  const metalOf = new Map(metal);
  return heats.map((heat): HeatAnswer => {
    const mine = pourings.filter(({ heatId }) => heatId === heat.id).sort((a, b) => a.order - b.order);
    const found = heatCharge(
      heat,
      mine.map(({ plannedKg }) => plannedKg),
      {
        returnsKg: metalForHeat(metalOf.get(heat.alloyId)!, heat.alloyId, heat.id).returnsKg,
        returnsShare: settings.returnsShare,
      },
    );
    const { endedAt: _, coverConfirmedAt: __, ...rest } = heat;
    return {
      ...rest,
      pourings: mine.map((pouring) => {
        const next = trees.get(pouring.treeId)?.next;
        const { id, treeId, order, plannedKg, plannedSource, plannedPlusMinusKg, pouredKg, outcome } = pouring;
        const { place, outAt, startedAt, seconds, metalC } = pouring;
        const stepId = steps.get(treeId) ?? null;
        return {
          id,
          treeId,
          stepId,
          label: next?.on ?? `T-${numbers.get(treeId) ?? '?'}`,
          order,
          plannedKg,
          plannedSource,
          plannedPlusMinusKg,
          // A test or a firing comes first.
          waits: next && next.stepId !== stepId ? [next.name] : (next?.waits ?? []),
          pouredKg,
          outcome,
          place,
          outAt,
          startedAt,
          seconds,
          metalC,
        };
      }),
      chargeLines: lines
        .filter(({ heatId }) => heatId === heat.id)
        .map(({ what, alloyId, kg: kilograms, lot, dry }) => ({ what, alloyId, kg: kilograms, lot, dry })),
      charge: found.charge,
      freeKg: found.freeKg,
      returnsKg: found.returnsKg,
      ingotKg: found.ingotKg,
      warnings: [
        ...(found.tooLittle ? ['A small charge melts badly in this crucible: what else would fill the heat?'] : []),
        ...liftWarning(settings, found.charge.value),
      ],
    };
  });
}

/** The same, as short as the strip shows it. */
export const heatLine = (heat: HeatAnswer): HeatLine => ({
  id: heat.id,
  number: heat.number,
  alloyId: heat.alloyId,
  state: heat.state,
  plannedFor: heat.plannedFor,
  usableKg: heat.usableKg,
  chargeKg: heat.charge.value,
  trees: heat.pourings.map(({ treeId, label, plannedKg, outcome }) => ({
    treeId,
    label,
    plannedKg,
    outcome,
  })),
});
