import type { Alloy } from '../materials/alloys.ts';
import type { Figure } from '../units/figure.ts';
import { positive, within } from '../units/figure.ts';
import { celsius, kg, percent, quantity } from '../units/quantity.ts';
import { say } from '../units/words.ts';

/** Where the metal starts from, and how far it is heated over its liquidus where nobody says. */
const ROOM_C = 20;
export const DEFAULT_SUPERHEAT_K = 180;

/**
 * Energy to melt and heat metal: q = c_s·(T_m − T_0) + L + c_l·(T_pour − T_m), T_m the middle of the freezing range;
 * kJ/kg. Source: heat balance with the data-sheet's heats.
 * @throws RangeError where the pouring temperature lies below the middle of the freezing range
 */
export function meltEnergyKJPerKg(alloy: Alloy, pourC: number): number {
  const middle = (alloy.solidusC + alloy.liquidusC) / 2;
  within('pouring temperature, °C', pourC, middle, 2000);
  return alloy.solidKJPerKgK * (middle - ROOM_C) + alloy.latentKJPerKg + alloy.liquidKJPerKgK * (pourC - middle);
}

/** What a furnace is: its power at the burner or the coil, and the share of it that reaches the metal. */
export interface Furnace {
  readonly powerKw: number;
  readonly efficiency: number;
}

/**
 * Minutes to melt a charge: its energy ÷ efficiency ÷ power. Gas lift-out furnaces bring 8–20 % into the metal, induction
 * 60–75 %; the shop's meter knows better.
 */
export function meltMinutes(chargeKg: number, alloy: Alloy, { powerKw, efficiency }: Furnace, pourC?: number): Figure {
  const target = pourC ?? alloy.liquidusC + DEFAULT_SUPERHEAT_K;
  const kWh = (meltEnergyKJPerKg(alloy, target) * within('charge, kg', chargeKg, 0, 1e5)) / 3600;
  const used = kWh / within('efficiency', efficiency, 0.01, 1);
  return {
    value: (used / positive('power, kW', powerKw)) * 60,
    unit: 'min',
    source: 'estimated',
    inWords: say`${kg(chargeKg, 0)} to ${celsius(target)} hold ${quantity(kWh, 'kWh', 1)}; at ${percent(efficiency)} of ${quantity(powerKw, 'kW')}`,
    inputs: {
      charge: kg(chargeKg),
      to: celsius(target),
      held: quantity(kWh, 'kWh', 2),
      furnace: quantity(powerKw, 'kW'),
      efficiency: percent(efficiency),
    },
  };
}
