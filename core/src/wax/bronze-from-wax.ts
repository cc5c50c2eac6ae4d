import type { Alloy } from '../materials/alloys.ts';
import { PATTERN_WAX_DENSITY } from '../materials/waxes.ts';
import type { Figure } from '../units/figure.ts';
import { positive, within } from '../units/figure.ts';

/** Without its own (wax, cast) pairs a shop knows the factor to about this share: scale, wax lot and cut-off together. */
const FACTOR_SPREAD = 0.03;

/**
 * Kilograms of cold casting for one kilogram of wax. The cavity has the wax's volume, the casting is smaller by the
 * metal's solid contraction in all three directions: ρ_metal/ρ_wax · (1−s)³.
 * Source: continuity of volume; densities and contraction from data sheets.
 */
export function castFactor(alloy: Alloy, waxDensity = PATTERN_WAX_DENSITY): number {
  return (alloy.densityGPerCm3 / positive('wax density', waxDensity)) * (1 - alloy.contraction) ** 3;
}

/** The same without the contraction: the safe side, used only to charge the crucible. */
export function chargeFactor(alloy: Alloy, waxDensity = PATTERN_WAX_DENSITY): number {
  return alloy.densityGPerCm3 / positive('wax density', waxDensity);
}

/** What a wax of so many kilograms will weigh as a cold casting, in kg. */
export function castFromWax(waxKg: number, alloy: Alloy, waxDensity = PATTERN_WAX_DENSITY): Figure {
  const factor = castFactor(alloy, waxDensity);
  const value = positive('wax weight', waxKg) * factor;
  return {
    value,
    unit: 'kg',
    plusMinus: value * FACTOR_SPREAD,
    source: 'computed',
    inWords: `wax ${waxKg.toFixed(2)} kg × ${factor.toFixed(2)} (${alloy.name}, contraction taken off)`,
    inputs: {
      'wax, kg': waxKg,
      'metal, g/cm³': alloy.densityGPerCm3,
      'wax, g/cm³': waxDensity,
      'contraction, %': alloy.contraction * 100,
    },
  };
}

/** What to charge for a wax of so many kilograms, in kg: the safe side. */
export function chargeFromWax(waxKg: number, alloy: Alloy, waxDensity = PATTERN_WAX_DENSITY): Figure {
  const factor = chargeFactor(alloy, waxDensity);
  const value = positive('wax weight', waxKg) * factor;
  return {
    value,
    unit: 'kg',
    source: 'computed',
    inWords: `wax ${waxKg.toFixed(2)} kg × ${factor.toFixed(2)} (${alloy.name}, safe side for the charge)`,
    inputs: { 'wax, kg': waxKg, 'metal, g/cm³': alloy.densityGPerCm3, 'wax, g/cm³': waxDensity },
  };
}

/** The share by which a wax may leave its plan before it is flagged; the drawn band is the same. */
export const DEFAULT_WAX_BAND = 0.1;

/** How a weighed wax stands against its plan. */
export interface Deviation {
  /** (weighed − planned) ÷ planned, 0.14 = 14 % over. */
  readonly share: number;
  /** The same in kilograms of bronze, negative when under. */
  readonly bronze: Figure;
  readonly flagged: boolean;
  /** `Wax 14 % over: +0.9 kg bronze`; empty inside the band. */
  readonly inWords: string;
}

/** Compares a weighed wax with the planned one, both in kg. Flagged strictly outside the band. */
export function waxDeviation(weighedKg: number, plannedKg: number, alloy: Alloy, band = DEFAULT_WAX_BAND): Deviation {
  positive('weighed wax', weighedKg);
  positive('planned wax', plannedKg);
  const share = (weighedKg - plannedKg) / plannedKg;
  const factor = castFactor(alloy);
  const value = (weighedKg - plannedKg) * factor;
  // A wax typed as exactly 10 % over must not be flagged because 1.1 − 1 is not 0.1 in binary.
  const flagged = Math.abs(share) > within('band', band, 0, 1) + 1e-9;
  const sign = value < 0 ? '−' : '+';
  const percent = Math.round(Math.abs(share) * 100);
  const bronzeKg = Math.abs(value).toFixed(Math.abs(value) < 0.1 ? 2 : 1);
  return {
    share,
    bronze: {
      value,
      unit: 'kg',
      source: 'computed',
      inWords: `(${weighedKg.toFixed(2)} − ${plannedKg.toFixed(2)}) kg wax × ${factor.toFixed(2)}`,
      inputs: { 'weighed wax, kg': weighedKg, 'planned wax, kg': plannedKg },
    },
    flagged,
    inWords: flagged ? `Wax ${percent} % ${share > 0 ? 'over' : 'under'}: ${sign}${bronzeKg} kg bronze` : '',
  };
}
