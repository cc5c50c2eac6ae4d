import type { Alloy } from '../materials/alloys.ts';
import { PATTERN_WAX_DENSITY } from '../materials/waxes.ts';
import type { Figure } from '../units/figure.ts';
import { positive } from '../units/figure.ts';

/** A volume worked out from a model, in cm³. */
export interface ModelVolume {
  readonly volumeCm3: number;
  readonly plusMinusCm3: number;
  /** What it is the volume of: `the solid model`, `a wall of 5 mm`. */
  readonly of: string;
}

const kilograms = ({ volumeCm3, plusMinusCm3, of }: ModelVolume, density: number, inWords: string): Figure => ({
  value: (positive('volume', volumeCm3) * density) / 1000,
  unit: 'kg',
  plusMinus: (plusMinusCm3 * density) / 1000,
  source: 'computed',
  inWords: `${of}, ${volumeCm3.toFixed(1)} cm³ × ${inWords}`,
  inputs: { 'volume, cm³': volumeCm3, 'density, g/cm³': density },
});

/** The wax of a body of exactly these dimensions, in kg: volume × density, without contraction. */
export const waxOfVolume = (volume: ModelVolume, waxDensity = PATTERN_WAX_DENSITY): Figure =>
  kilograms(volume, positive('wax density', waxDensity), `${waxDensity} g/cm³ wax`);

/** The metal of a body of exactly these dimensions, in kg: volume × density, without contraction. */
export const metalOfVolume = (volume: ModelVolume, alloy: Alloy): Figure =>
  kilograms(volume, alloy.densityGPerCm3, `${alloy.densityGPerCm3} g/cm³ ${alloy.name}`);
