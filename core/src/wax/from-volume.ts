import type { Alloy } from '../materials/alloys.ts';
import { PATTERN_WAX_DENSITY } from '../materials/waxes.ts';
import type { Figure } from '../units/figure.ts';
import { positive } from '../units/figure.ts';
import { quantity } from '../units/quantity.ts';
import { say } from '../units/words.ts';

/** A volume worked out from a model, in cm³. */
export interface ModelVolume {
  readonly volumeCm3: number;
  readonly plusMinusCm3: number;
  /** What it is the volume of: `the solid model`, `a wall of 5 mm`. */
  readonly of: string;
}

const kilograms = ({ volumeCm3, plusMinusCm3, of }: ModelVolume, density: number, material: string): Figure => ({
  value: (positive('volume', volumeCm3) * density) / 1000,
  unit: 'kg',
  plusMinus: (plusMinusCm3 * density) / 1000,
  source: 'computed',
  inWords: say`${of}, ${quantity(volumeCm3, 'cm3', 1)} × ${quantity(density, 'g/cm3')} ${material}`,
  inputs: { volume: quantity(volumeCm3, 'cm3', 1), density: quantity(density, 'g/cm3') },
});

/** The wax of a body of exactly these dimensions, in kg: volume × density, without contraction. */
export const waxOfVolume = (volume: ModelVolume, waxDensity = PATTERN_WAX_DENSITY): Figure =>
  kilograms(volume, positive('wax density', waxDensity), 'wax');

/** The metal of a body of exactly these dimensions, in kg: volume × density, without contraction. */
export const metalOfVolume = (volume: ModelVolume, alloy: Alloy): Figure =>
  kilograms(volume, alloy.densityGPerCm3, alloy.name);
