import { PATTERN_WAX_DENSITY } from '../materials/waxes.ts';
import type { Section } from '../records/work.ts';
import type { Figure } from '../units/figure.ts';
import { waxFromWall } from './wall.ts';

/** A section's wax plan in kg: what somebody expects, else its wall over its area; undefined where neither is known. */
export function plannedWax(
  { expectedWaxKg, areaCm2, wallMm }: Pick<Section, 'expectedWaxKg' | 'areaCm2' | 'wallMm'>,
  waxDensity = PATTERN_WAX_DENSITY,
): Figure | undefined {
  if (expectedWaxKg !== null)
    return {
      value: expectedWaxKg,
      unit: 'kg',
      source: 'default',
      inWords: 'expected wax, entered by hand',
      inputs: {},
    };
  return areaCm2 === null ? undefined : waxFromWall(wallMm, areaCm2, waxDensity);
}
