import { PATTERN_WAX_DENSITY } from '../materials/waxes.ts';
import type { CurvePoint } from '../records/model.ts';
import type { Figure } from '../units/figure.ts';
import { positive } from '../units/figure.ts';
import { kg, mm, quantity } from '../units/quantity.ts';
import { say } from '../units/words.ts';

/** Walls that a model is measured at, mm: between and beyond them volume ÷ wall is nearly a line. */
export const CURVE_WALLS_MM = [3, 5, 8, 12] as const;

/**
 * The wax within a wall, cm³, from a model's curve.
 *
 * In other words: volume ÷ wall hardly bends (area less half the wall times the curvature), so it is what is interpolated.
 *
 * @param curve points of growing walls; @param wallMm beyond the last one the last slope goes on
 */
export function volumeAt(curve: readonly CurvePoint[], wallMm: number): { volumeCm3: number; plusMinusCm3: number } {
  const wall = positive('wall', wallMm);
  const points = [...curve].sort((a, b) => a.wallMm - b.wallMm);
  if (points.length === 0) throw new RangeError('a curve needs at least one point');
  const after = points.findIndex((point) => point.wallMm >= wall);
  const high = after < 0 ? points.length - 1 : Math.max(1, after);
  const [a, b] = [points[Math.max(0, high - 1)]!, points[Math.min(high, points.length - 1)]!];
  const share = b.wallMm === a.wallMm ? 0 : (wall - a.wallMm) / (b.wallMm - a.wallMm);
  const mix = (of: (point: CurvePoint) => number) => of(a) + (of(b) - of(a)) * share;
  const most = points.at(-1)!.volumeCm3;
  const volumeCm3 = wall * mix((point) => point.volumeCm3 / point.wallMm);
  // Past the last wall the metal cannot become less.
  return {
    volumeCm3: wall > points.at(-1)!.wallMm ? Math.max(most, volumeCm3) : volumeCm3,
    plusMinusCm3: Math.max(
      0,
      mix((point) => point.plusMinusCm3),
    ),
  };
}

/** The wax in kg that a wall asks for, by the model's curve. */
export function waxFromCurve(curve: readonly CurvePoint[], wallMm: number, waxDensity = PATTERN_WAX_DENSITY): Figure {
  const { volumeCm3, plusMinusCm3 } = volumeAt(curve, wallMm);
  return {
    value: (volumeCm3 * waxDensity) / 1000,
    unit: 'kg',
    plusMinus: (plusMinusCm3 * waxDensity) / 1000,
    source: 'computed',
    inWords: say`the model at a wall of ${mm(wallMm)}, ${quantity(volumeCm3, 'cm3', 0)} × ${quantity(waxDensity, 'g/cm3', 2)}`,
    inputs: {
      wall: mm(wallMm),
      volume: quantity(volumeCm3, 'cm3', 1),
      'wax density': quantity(waxDensity, 'g/cm3', 2),
    },
  };
}

const ROUNDS = 60;
/** What the wall of a wax differs from place to place is no doubt about its mean; a scale's and the curve's are. */
const SCALE_SPREAD = 0.005;

/**
 * The mean wall of a wax in mm from what it weighs, by the model's curve read backwards.
 * @param waxKg the wax on the scale
 */
export function wallFromCurve(waxKg: number, curve: readonly CurvePoint[], waxDensity = PATTERN_WAX_DENSITY): Figure {
  const volumeCm3 = (positive('wax weight', waxKg) * 1000) / positive('wax density', waxDensity);
  const thickest = Math.max(...curve.map((point) => point.wallMm));
  let [low, high] = [1e-6, 4 * thickest];
  for (let i = 0; i < ROUNDS; i++) {
    const middle = (low + high) / 2;
    if (volumeAt(curve, middle).volumeCm3 < volumeCm3) low = middle;
    else high = middle;
  }
  const { plusMinusCm3 } = volumeAt(curve, high);
  return {
    value: high,
    unit: 'mm',
    plusMinus: high * Math.hypot(plusMinusCm3 / volumeCm3, SCALE_SPREAD),
    source: 'computed',
    inWords: say`wax ${kg(waxKg, 2)} by the model’s volume for each wall`,
    inputs: { wax: kg(waxKg, 3), 'wax density': quantity(waxDensity, 'g/cm3', 2) },
  };
}
