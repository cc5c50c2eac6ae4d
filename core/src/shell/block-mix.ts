import type { Figure } from '../units/figure.ts';
import { positive, within } from '../units/figure.ts';
import { kg, percent, quantity } from '../units/quantity.ts';
import { say } from '../units/words.ts';

/** Refractory plaster mix for a litre of block, at 40 parts of water to 100 of powder by weight. Source: handbook 2.4. */
const POWDER_KG_A_LITRE = 1.25;
const WATER_KG_A_LITRE = 0.5;
/** What stays in the buckets and runs out of the flask. */
const MORE = 0.05;

/** What a block is cast of, and what it weighs. */
export interface BlockMix {
  /** To be mixed, l, what is lost on the way included. */
  readonly litres: number;
  readonly powderKg: number;
  readonly waterL: number;
  /** The block, wet, with the wax in it. */
  readonly wetKg: Figure;
}

/**
 * The mix that a flask takes round a tree, by volume: block − tree + 5 %. The mix's own sheet rules.
 *
 * @example
 * // A flask of 400 × 400 × 600 mm round 7 l of wax: 93.5 l of mix, 116.9 kg of powder and 46.7 l of water.
 *
 * @param flask inside measures, mm; @param treeL wax of the tree, l; @param treeKg what it weighs, kg
 * @throws RangeError where the tree does not fit into its flask by volume
 */
export function blockMix(
  flask: { readonly acrossMm: number; readonly deepMm: number; readonly highMm: number },
  treeL: number,
  treeKg: number,
): BlockMix {
  const { acrossMm, deepMm, highMm } = flask;
  const wholeL = (positive('flask', acrossMm) * positive('flask', deepMm) * positive('flask', highMm)) / 1e6;
  const blockL = wholeL - within('tree', treeL, 0, wholeL);
  const litres = blockL * (1 + MORE);
  const mixKg = blockL * (POWDER_KG_A_LITRE + WATER_KG_A_LITRE);
  return {
    litres,
    powderKg: litres * POWDER_KG_A_LITRE,
    waterL: litres * WATER_KG_A_LITRE,
    wetKg: {
      value: mixKg + within('tree', treeKg, 0, 1e5),
      unit: 'kg',
      source: 'estimated',
      inWords: say`${quantity(blockL, 'l', 1)} of mix, ${kg(POWDER_KG_A_LITRE, 2)} of powder and ${quantity(WATER_KG_A_LITRE, 'l', 2)} of water a litre, and ${kg(treeKg)} of wax; ${percent(MORE)} more is mixed`,
      inputs: { block: quantity(blockL, 'l', 1), wax: kg(treeKg) },
    },
  };
}
