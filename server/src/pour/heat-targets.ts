import type { Figure, HeatAnswer, Id, Placed, PourWindow, ShopSettings } from '@kalvet/core';
import { coolingPerMinOf, furnaceTarget, pouringOrder } from '@kalvet/core';

const AIR_C = 20;
/** A furnace that can be cooler by so little is no reason to pour in another order. */
const WORTH_K = 3;

/** What the furnace is brought to for a heat, and an order that needs less. */
export interface HeatTargets {
  readonly furnace: Figure | null;
  readonly order: {
    readonly treeIds: readonly Id[];
    readonly labels: readonly string[];
    readonly coolerK: number;
  } | null;
}

/** Targets of what is still to be poured of a heat, in its order, by the shop's own losses on the way. */
export function heatTargets(
  { pourings }: HeatAnswer,
  windowOf: (treeId: Id) => PourWindow,
  heightOf: (treeId: Id) => number | null,
  { transferK, crucibleLossK, minutesATree }: ShopSettings,
): HeatTargets {
  const way = { transferK, coolingPerMin: coolingPerMinOf(crucibleLossK), minutesATree, airC: AIR_C };
  const open = pourings
    .filter(({ outcome }) => outcome === null)
    .map(({ treeId, label, plannedKg }): Placed => ({
      treeId,
      label,
      cupC: windowOf(treeId).cup.value,
      kg: plannedKg,
      heightMm: heightOf(treeId),
    }));
  const furnace = furnaceTarget(open, way) ?? null;
  const better = pouringOrder(open);
  const cooler = furnace === null ? 0 : furnace.value - furnaceTarget(better, way)!.value;
  return {
    furnace,
    order:
      cooler < WORTH_K
        ? null
        : { treeIds: better.map(({ treeId }) => treeId), labels: better.map(({ label }) => label), coolerK: cooler },
  };
}
