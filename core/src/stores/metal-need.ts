import type { Id } from '../records/common.ts';
import type { MetalNeed, MetalStock } from '../records/stores.ts';
import type { Instant } from '../units/instant.ts';
import { addMinutes } from '../units/instant.ts';

/** A heat that is to come, and what of its charge is said already. */
export interface ComingHeat {
  readonly at: Instant;
  readonly alloyId: string;
  readonly heatId: Id | null;
  readonly label: string;
  readonly chargeKg: number;
  /** Returns that somebody has said for its charge, kg; left out where nobody has yet. */
  readonly saidReturnsKg?: number;
  /** Of it cups, bars and pig: they come back when it is knocked out. */
  readonly comesBackKg: number;
}

/** Returns are back on the shelf so long after their pour: cooled, knocked out, cut and weighed. */
const BACK_AFTER_MIN = 3 * 1440;

/**
 * What the coming heats take of each alloy, in the order of their days: returns up to the shop's share as far as they are there by then,
 * the rest ingot, and what is left of it.
 */
export function metalNeeds(
  stock: readonly MetalStock[],
  heats: readonly ComingHeat[],
  returnsShare: number,
): MetalNeed[] {
  // What was said for a heat is promised to it: nothing earlier takes it.
  const said = (alloyId: string) =>
    heats.reduce((sum, heat) => sum + (heat.alloyId === alloyId ? (heat.saidReturnsKg ?? 0) : 0), 0);
  const left = new Map(
    stock.map(({ alloyId, ingotKg, returnsKg }) => [alloyId, { ingotKg, returnsKg: returnsKg - said(alloyId) }]),
  );
  const back: { at: Instant; alloyId: string; kg: number }[] = [];
  return [...heats]
    .sort((a, b) => a.at.localeCompare(b.at))
    .map(({ at, alloyId, heatId, label, chargeKg, saidReturnsKg, comesBackKg }): MetalNeed => {
      const own = left.get(alloyId) ?? { ingotKg: 0, returnsKg: 0 };
      for (const each of back.filter((other) => other.alloyId === alloyId && other.at <= at)) {
        own.returnsKg += each.kg;
        back.splice(back.indexOf(each), 1);
      }
      const returnsKg = saidReturnsKg ?? Math.min(chargeKg * returnsShare, Math.max(0, own.returnsKg));
      const ingotKg = chargeKg - returnsKg;
      if (saidReturnsKg === undefined) own.returnsKg -= returnsKg;
      own.ingotKg -= ingotKg;
      left.set(alloyId, own);
      back.push({ at: addMinutes(at, BACK_AFTER_MIN), alloyId, kg: comesBackKg });
      return { at, alloyId, heatId, label, chargeKg, returnsKg, ingotKg, ingotLeftKg: own.ingotKg };
    });
}

/** The first heat of each alloy for which ingot is missing. */
export const firstShorts = (needs: readonly MetalNeed[]): MetalNeed[] => {
  const seen = new Set<string>();
  return needs.filter(({ alloyId, ingotLeftKg }) => {
    if (ingotLeftKg >= -0.05 || seen.has(alloyId)) return false;
    seen.add(alloyId);
    return true;
  });
};
