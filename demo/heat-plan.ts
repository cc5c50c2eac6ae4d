import type { Id, ShopIndex, ShopSettings } from '@kalvet/core';
import {
  alloyOf,
  castsOfTree,
  coolingPerMinOf,
  cupTarget,
  furnaceTarget,
  isClosed,
  meltEnergyKJPerKg,
  meltMinutes,
  pourWindow,
  pouringOrder,
  secondsUntil,
} from '@kalvet/core';

const COAT_MM = 0.9;
const AIR_C = 20;

/** A tree as the crew of the play pours it. */
export interface PlayedTree {
  readonly treeId: Id;
  readonly kg: number;
  readonly wallMm: number;
  readonly isShell: boolean;
  /** Seconds between the kiln and its metal. */
  readonly outS: number;
}

/** How a heat is poured: in which order, and how hot its furnace is. */
export function heatPlan(
  alloyId: string,
  chosen: readonly { readonly treeId: Id; readonly kg: number; readonly index: ShopIndex }[],
  { transferK, crucibleLossK, minutesATree, preheatC }: ShopSettings,
): { readonly trees: readonly PlayedTree[]; readonly furnaceC: number } {
  const alloy = alloyOf(alloyId);
  const placed = pouringOrder(
    chosen.map(({ treeId, kg, index }) => {
      const sections = castsOfTree(index, treeId).map(({ sectionId }) => index.section.get(sectionId)!);
      const wallMm = Math.min(...sections.map((section) => section.wallMm));
      const { method } = index.tree.get(treeId)!;
      const coats = (index.stepsOf.get(treeId) ?? []).filter((step) => index.kind(step).coat && isClosed(step)).length;
      const isShell = method !== 'block' && coats > 0;
      const [, mostC] = pourWindow(alloy, isShell ? 'shell' : 'block', wallMm).mouldC;
      const outS = isShell ? Math.round(secondsUntil(mostC, { fromC: preheatC, wallMm: coats * COAT_MM })) + 15 : 0;
      const heightMm = Math.max(...sections.map(({ metalHeightMm }) => metalHeightMm ?? 0));
      return { treeId, kg, wallMm, isShell, outS, heightMm, label: treeId, cupC: cupTarget(alloy, wallMm).value };
    }),
  );
  const way = { transferK, coolingPerMin: coolingPerMinOf(crucibleLossK), minutesATree, airC: AIR_C };
  return { trees: placed, furnaceC: furnaceTarget(placed, way)!.value };
}

/** How long before its pour the furnace is lit, and what its meter counts. */
export function lighting(
  alloyId: string,
  chargeKg: number,
  { furnaceKw, furnaceEfficiency, liningMinutes }: ShopSettings,
  warm: boolean,
): { readonly minutes: number; readonly kwh: number } {
  const alloy = alloyOf(alloyId);
  const melt = meltMinutes(chargeKg, alloy, { powerKw: furnaceKw, efficiency: furnaceEfficiency }).value;
  const lining = warm ? 0 : liningMinutes;
  const held = (meltEnergyKJPerKg(alloy, alloy.liquidusC + 180) * chargeKg) / 3600;
  return { minutes: melt + lining, kwh: held / furnaceEfficiency + (lining / 60) * furnaceKw };
}
