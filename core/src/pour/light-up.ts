import type { Alloy } from '../materials/alloys.ts';
import type { Figure } from '../units/figure.ts';
import { within } from '../units/figure.ts';
import type { Instant } from '../units/instant.ts';
import { toMs } from '../units/instant.ts';
import { quantity } from '../units/quantity.ts';
import { say } from '../units/words.ts';
import type { Furnace } from './melt-minutes.ts';
import { meltMinutes } from './melt-minutes.ts';

/** A furnace that was not charged for so long is cold. */
export const COLD_AFTER_MIN = 240;

/**
 * Minutes before its pour at which a furnace is lit: its charge melts, and in a cold furnace the lining is warmed first.
 * @param pours all pours that are planned: one within four hours before leaves the furnace warm
 * @param liningMinutes what a cold lining takes, the shop's figure
 */
export function lightUp(
  pour: { readonly at: Instant; readonly chargeKg: number; readonly alloy: Alloy },
  pours: readonly Instant[],
  furnace: Furnace,
  liningMinutes: number,
): Figure {
  const melt = meltMinutes(pour.chargeKg, pour.alloy, furnace);
  const ago = pours.map((other) => (toMs(pour.at) - toMs(other)) / 60_000);
  const isWarm = ago.some((minutes) => minutes > 0 && minutes <= COLD_AFTER_MIN);
  if (isWarm || within('lining, min', liningMinutes, 0, 1e4) === 0) return melt;
  const lining = quantity(liningMinutes, 'min', 0);
  return {
    ...melt,
    value: melt.value + liningMinutes,
    inWords: say`${melt.inWords}; the cold lining takes ${lining} more`,
    inputs: { ...melt.inputs, lining },
  };
}
