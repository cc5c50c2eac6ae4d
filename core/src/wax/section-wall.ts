import { PATTERN_WAX_DENSITY } from '../materials/waxes.ts';
import type { Section } from '../records/work.ts';
import type { Figure } from '../units/figure.ts';
import { wallFromCurve } from './volume-curve.ts';
import { wallFromWax } from './wall.ts';

/** The wall of a weighed wax: by the model's curve where the section has one, else over its outer area; undefined without both. */
export function wallOfWax(
  waxKg: number,
  { areaCm2, estimates = [] }: Pick<Section, 'areaCm2' | 'estimates'>,
  waxDensity = PATTERN_WAX_DENSITY,
): Figure | undefined {
  const curve = [...estimates]
    .sort((a, b) => b.at.localeCompare(a.at))
    .find((each) => each.curve !== null && each.curve.length > 1 && each.voidReason === null)?.curve;
  if (curve) return wallFromCurve(waxKg, curve, waxDensity);
  return areaCm2 === null ? undefined : wallFromWax(waxKg, areaCm2, waxDensity);
}
