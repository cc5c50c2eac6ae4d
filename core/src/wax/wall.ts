import { PATTERN_WAX_DENSITY } from '../materials/waxes.ts';
import type { Figure } from '../units/figure.ts';
import { positive } from '../units/figure.ts';
import { cm2, kg, mm, quantity } from '../units/quantity.ts';
import { say } from '../units/words.ts';

/** A curved wall worked out over its outer area reads thin by about this share, so the figure says ±. */
const OUTER_AREA_SPREAD = 0.1;

/**
 * The mean wall of a hollow wax in mm, t ≈ m / (ρ_wax · A). Exact over the mid-surface; over the outer area, which is
 * what a shop has, a curved wall reads thin (sphere R 50 mm, t 5 mm → 4.52 mm), hence ±10 %.
 * @param waxKg the wax; @param outerAreaCm2 its outer area
 */
export function wallFromWax(waxKg: number, outerAreaCm2: number, waxDensity = PATTERN_WAX_DENSITY): Figure {
  const grams = positive('wax weight', waxKg) * 1000;
  const cm = grams / (positive('wax density', waxDensity) * positive('area', outerAreaCm2));
  const value = cm * 10;
  return {
    value,
    unit: 'mm',
    plusMinus: value * OUTER_AREA_SPREAD,
    source: 'estimated',
    inWords: say`wax ${kg(waxKg, 2)} over ${cm2(outerAreaCm2)} of outer area; a curved wall reads thin`,
    inputs: { wax: kg(waxKg, 3), 'outer area': cm2(outerAreaCm2), 'wax density': quantity(waxDensity, 'g/cm3', 2) },
  };
}

/** The wax in kg that a wall over an area asks for: the plan where nobody has entered an expected wax. */
export function waxFromWall(wallMm: number, outerAreaCm2: number, waxDensity = PATTERN_WAX_DENSITY): Figure {
  const value = (positive('wall', wallMm) / 10) * positive('area', outerAreaCm2) * waxDensity * 1e-3;
  return {
    value,
    unit: 'kg',
    plusMinus: value * OUTER_AREA_SPREAD,
    source: 'estimated',
    inWords: say`wall ${mm(wallMm)} over ${cm2(outerAreaCm2)} of outer area`,
    inputs: {
      wall: mm(wallMm),
      'outer area': cm2(outerAreaCm2),
      'wax density': quantity(waxDensity, 'g/cm3', 2),
    },
  };
}
