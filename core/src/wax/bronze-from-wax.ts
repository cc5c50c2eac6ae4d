import type { Alloy } from '../materials/alloys.ts';
import { PATTERN_WAX_DENSITY } from '../materials/waxes.ts';
import type { Figure } from '../units/figure.ts';
import { positive, within } from '../units/figure.ts';
import type { LearnedFigure } from '../units/learned.ts';
import { kg, percent, plain, quantity } from '../units/quantity.ts';
import type { Words } from '../units/words.ts';
import { NOTHING, say } from '../units/words.ts';
import { ALONE_FROM, factorWith } from './own-factor.ts';

/** A shop's own factor is not told more exactly than this share: the scales alone are about so much apart. */
const LEAST_SPREAD = 0.005;
/** Without its own (wax, cast) pairs a shop knows the factor to about this share: scale, wax lot and cut-off together. */
const FACTOR_SPREAD = 0.03;

/**
 * Kilograms of cold casting for one kilogram of wax. The cavity has the wax's volume, the casting is smaller by the
 * metal's solid contraction in all three directions: ρ_metal/ρ_wax · (1−s)³.
 * Source: continuity of volume; densities and contraction from data sheets.
 *
 * @param own the shop's own factor of this alloy and wax, where it has taken one over; it counts with the formula's by its casts
 */
export function castFactor(alloy: Alloy, waxDensity = PATTERN_WAX_DENSITY, own?: LearnedFigure): number {
  const formula = (alloy.densityGPerCm3 / positive('wax density', waxDensity)) * (1 - alloy.contraction) ** 3;
  return factorWith(formula, own);
}

/** The same without the contraction: the safe side, used only to charge the crucible. */
export function chargeFactor(alloy: Alloy, waxDensity = PATTERN_WAX_DENSITY): number {
  return alloy.densityGPerCm3 / positive('wax density', waxDensity);
}

/** What a wax of so many kilograms will weigh as a cold casting, in kg. */
export function castFromWax(
  waxKg: number,
  alloy: Alloy,
  waxDensity = PATTERN_WAX_DENSITY,
  own?: LearnedFigure,
): Figure {
  const factor = castFactor(alloy, waxDensity, own);
  const isOwn = own !== undefined && own.n >= ALONE_FROM;
  const value = positive('wax weight', waxKg) * factor;
  return {
    value,
    unit: 'kg',
    plusMinus: value * (isOwn ? Math.max(LEAST_SPREAD, own.spread / own.value) : FACTOR_SPREAD),
    source: 'computed',
    inWords: own
      ? say`wax ${kg(waxKg, 2)} × ${plain(factor, 2)} (${alloy.name}, ${isOwn ? 'of' : 'the formula with'} ${plain(own.n, 0)} casts of the shop)`
      : say`wax ${kg(waxKg, 2)} × ${plain(factor, 2)} (${alloy.name}, contraction taken off)`,
    inputs: {
      wax: kg(waxKg, 3),
      metal: quantity(alloy.densityGPerCm3, 'g/cm3', 2),
      'wax density': quantity(waxDensity, 'g/cm3', 2),
      contraction: percent(alloy.contraction, 1),
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
    plusMinus: value * FACTOR_SPREAD,
    source: 'computed',
    inWords: say`wax ${kg(waxKg, 2)} × ${plain(factor, 2)} (${alloy.name}, safe side for the charge)`,
    inputs: {
      wax: kg(waxKg, 3),
      metal: quantity(alloy.densityGPerCm3, 'g/cm3', 2),
      'wax density': quantity(waxDensity, 'g/cm3', 2),
    },
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
  readonly inWords: Words;
}

/** Whether a share off the plan is outside the band, which itself belongs to it. The one rule for scale, list and chart. */
export const isOutside = (share: number, band: number): boolean =>
  // A wax typed as exactly 10 % over must not be flagged because 1.1 − 1 is not 0.1 in binary.
  Math.abs(share) > within('band', band, 0, 1) + 1e-9;

/** Compares a weighed wax with the planned one, both in kg. Flagged strictly outside the band. */
export function waxDeviation(
  weighedKg: number,
  plannedKg: number,
  alloy: Alloy,
  band = DEFAULT_WAX_BAND,
  waxDensity = PATTERN_WAX_DENSITY,
  own?: LearnedFigure,
): Deviation {
  positive('weighed wax', weighedKg);
  positive('planned wax', plannedKg);
  const share = (weighedKg - plannedKg) / plannedKg;
  const factor = castFactor(alloy, waxDensity, own);
  const value = (weighedKg - plannedKg) * factor;
  const flagged = isOutside(share, band);
  const sign = value < 0 ? '−' : '+';
  const bronze = kg(Math.abs(value), Math.abs(value) < 0.1 ? 2 : 1);
  return {
    share,
    bronze: {
      value,
      unit: 'kg',
      source: 'computed',
      inWords: say`(${kg(weighedKg, 2)} − ${kg(plannedKg, 2)}) wax × ${plain(factor, 2)}`,
      inputs: { 'weighed wax': kg(weighedKg, 3), 'planned wax': kg(plannedKg, 3) },
    },
    flagged,
    inWords: flagged
      ? say`Wax ${percent(Math.abs(share))} ${share > 0 ? 'over' : 'under'}: ${sign}${bronze} bronze`
      : NOTHING,
  };
}
