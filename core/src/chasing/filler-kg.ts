import type { Figure } from '../units/figure.ts';
import { positive, within } from '../units/figure.ts';
import { quantity } from '../units/quantity.ts';
import { say } from '../units/words.ts';

/** Section of a usual bead in a seam of sculpture wall, mm²; the shop's own preparation decides. */
export const BEAD_MM2 = 40;
const SPREAD = 0.4;

/**
 * Filler that a seam takes: length × bead section × density, kg. A first guess, ±40 %, since nobody measures the groove.
 * @param seamM length of the seam, m
 * @throws RangeError where a length, section or density cannot be
 */
export function fillerKg(seamM: number, densityGPerCm3: number, beadMm2 = BEAD_MM2): Figure {
  const cm3 = within('seam, m', seamM, 0.001, 1000) * positive('bead, mm²', beadMm2);
  const value = (cm3 * positive('density, g/cm³', densityGPerCm3)) / 1000;
  return {
    value,
    unit: 'kg',
    plusMinus: value * SPREAD,
    source: 'estimated',
    inWords: say`seam ${quantity(seamM, 'm', 2)} × bead ${quantity(beadMm2, 'mm2')} × ${quantity(densityGPerCm3, 'g/cm3', 2)}`,
    inputs: {
      seam: quantity(seamM, 'm', 2),
      bead: quantity(beadMm2, 'mm2'),
      density: quantity(densityGPerCm3, 'g/cm3', 2),
    },
  };
}
