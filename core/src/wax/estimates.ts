import { PATTERN_WAX_DENSITY } from '../materials/waxes.ts';
import type { SectionEstimate } from '../records/model.ts';
import type { Figure } from '../units/figure.ts';
import { positive } from '../units/figure.ts';
import { kg, mm, percent, quantity } from '../units/quantity.ts';
import { say } from '../units/words.ts';
import { waxFromCurve } from './volume-curve.ts';
import { waxFromWall } from './wall.ts';

/** How far water that was displaced is read off, what an outline says of a surface, and what two works have in common. */
const SPREAD = { displacement: 0.03, size: 0.35, similar: 0.2 } as const;
/** A modelled surface has more area than an egg of its size: folds, limbs, hair. */
const FOLDED = 1.25;
/** The exponent of K. Thomsen's formula for the area of an ellipsoid (2004; within 1.1 %). */
const THOMSEN = 1.6075;

/** The wax that was held under water and displaced so many litres, kg. */
export function waxFromDisplacement(litres: number, waxDensity = PATTERN_WAX_DENSITY): Figure {
  const value = positive('water displaced', litres) * positive('wax density', waxDensity);
  return {
    value,
    unit: 'kg',
    plusMinus: value * SPREAD.displacement,
    source: 'measured',
    inWords: say`${quantity(litres, 'l', 2)} displaced × ${quantity(waxDensity, 'g/cm3', 2)}`,
    inputs: { displaced: quantity(litres, 'l', 2) },
  };
}

/**
 * The wax of a hollow of a size, kg: the area of an egg with these three sizes, a quarter more for what is modelled on it,
 * times the wall. A first guess, within about a third.
 */
export function waxFromSize(sizesMm: readonly [number, number, number], wallMm: number): Figure & { areaCm2: number } {
  const [a, b, c] = sizesMm.map((size) => positive('size', size) / 2) as [number, number, number];
  const mean = (a * b) ** THOMSEN + (a * c) ** THOMSEN + (b * c) ** THOMSEN;
  const areaCm2 = (FOLDED * 4 * Math.PI * (mean / 3) ** (1 / THOMSEN)) / 100;
  const wax = waxFromWall(wallMm, areaCm2);
  return {
    ...wax,
    areaCm2,
    plusMinus: wax.value * SPREAD.size,
    inWords: say`${mm(sizesMm[0], 0)} × ${mm(sizesMm[1], 0)} × ${mm(sizesMm[2], 0)} as an egg, a quarter more for its folds, wall ${mm(wallMm)}`,
  };
}

/** The wax of a hollow like another one but larger: by the square of the ratio of their lengths, kg. */
export function waxLikeAnother(otherKg: number, ratio: number, title: string): Figure {
  const value = positive('the other wax', otherKg) * positive('ratio', ratio) ** 2;
  return {
    value,
    unit: 'kg',
    plusMinus: value * SPREAD.similar,
    source: 'estimated',
    inWords: say`${title}, ${kg(otherKg, 2)}, × ${ratio.toFixed(2)} in length: its square`,
    inputs: { other: kg(otherKg, 2), ratio },
  };
}

/** What an estimate says of a wax at a wall; undefined where it counts no more. */
export function estimatedWax(
  { voidReason, curve, waxKg, plusMinusKg, says }: SectionEstimate,
  wallMm: number,
  waxDensity: number,
): Figure | undefined {
  if (voidReason !== null) return undefined;
  if (curve !== null && curve.length > 0) return waxFromCurve(curve, wallMm, waxDensity);
  if (waxKg === null) return undefined;
  return {
    value: waxKg,
    unit: 'kg',
    plusMinus: plusMinusKg ?? waxKg * SPREAD.similar,
    source: 'estimated',
    inWords: says,
    inputs: {},
  };
}

/** How sure a figure is, as a share of it. */
export const spreadOf = ({ value, plusMinus }: Figure): number => (plusMinus ?? 0) / value;

/** Why one of several counts, in words. */
export const whyItCounts = (counts: Figure): Figure['inWords'] =>
  say`the surest of them, within ${percent(spreadOf(counts))}`;
