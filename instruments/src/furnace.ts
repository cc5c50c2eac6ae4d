import { cooledTo, meltEnergyKJPerKg } from '@kalvet/core';
import type { Alloy } from '@kalvet/core';

/** What a furnace is while it stands in: its power at the burner, the share that reaches the metal, and what its lining holds. */
export interface StandInFurnace {
  readonly alloy: Alloy;
  readonly chargeKg: number;
  readonly powerKw: number;
  readonly efficiency: number;
  /** To where the metal is brought, °C. */
  readonly targetC: number;
  /** How fast the crucible cools once it is out, a minute. */
  readonly coolingPerMin: number;
}

/** Metal in a furnace and after it. */
export interface Melt {
  /** kJ that the metal took in so far. */
  readonly heldKJ: number;
  readonly celsius: number;
  /** kWh at the burner so far. */
  readonly kwh: number;
  /** The furnace's own wall, which its controller reads. */
  readonly wallC: number;
  readonly tapped: boolean;
}

export const COLD: Melt = { heldKJ: 0, celsius: 20, kwh: 0, wallC: 20, tapped: false };

/** A charge that is at its target. */
export const molten = (furnace: StandInFurnace): Melt => ({
  ...COLD,
  heldKJ: meltEnergyKJPerKg(furnace.alloy, furnace.targetC) * furnace.chargeKg,
  celsius: furnace.targetC,
  wallC: 1250,
});

/** The metal's temperature by what it holds: up to the middle of its freezing range, through it, and beyond. */
export function celsiusOf({ alloy, chargeKg }: StandInFurnace, heldKJ: number): number {
  const perKg = heldKJ / chargeKg;
  const middle = (alloy.solidusC + alloy.liquidusC) / 2;
  const solid = alloy.solidKJPerKgK * (middle - 20);
  if (perKg <= solid) return 20 + perKg / alloy.solidKJPerKgK;
  if (perKg <= solid + alloy.latentKJPerKg) return middle;
  return middle + (perKg - solid - alloy.latentKJPerKg) / alloy.liquidKJPerKgK;
}

/** So many seconds later: it melts up to its target and is held there, or, tapped, cools in its crucible. */
export function later(furnace: StandInFurnace, melt: Melt, seconds: number, tap = false): Melt {
  const wallC = melt.wallC + ((tap ? 900 : 1280) - melt.wallC) * (1 - Math.exp(-seconds / 1500));
  if (tap || melt.tapped)
    return { ...melt, tapped: true, wallC, celsius: cooledTo(melt.celsius, seconds / 60, furnace.coolingPerMin) };
  const mostKJ = meltEnergyKJPerKg(furnace.alloy, furnace.targetC) * furnace.chargeKg;
  const heldKJ = Math.min(mostKJ, melt.heldKJ + furnace.powerKw * furnace.efficiency * seconds);
  // At its target the burner only keeps it there.
  const share = heldKJ >= mostKJ ? 0.25 : 1;
  return {
    heldKJ,
    celsius: celsiusOf(furnace, heldKJ),
    kwh: melt.kwh + (furnace.powerKw * share * seconds) / 3600,
    wallC,
    tapped: false,
  };
}
