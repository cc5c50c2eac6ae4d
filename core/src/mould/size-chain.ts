import type { Figure } from '../units/figure.ts';
import { positive } from '../units/figure.ts';
import { mm } from '../units/quantity.ts';
import { say } from '../units/words.ts';
import type { ShrinkageChain } from './original-scale.ts';
import { originalScale } from './original-scale.ts';

/** The same length at every station from the original to the bronze, mm. */
export interface SizeChain {
  readonly original: Figure;
  readonly wax: Figure;
  readonly bronze: Figure;
  /** The model's own length times this is the wax's. */
  readonly toWax: number;
  /** … and the original's: 1 where the model is the original. */
  readonly toOriginal: number;
}

/**
 * How large original, wax and bronze are, from what is known of one of them.
 *
 * @example
 * // A bronze of 400 mm in silicon bronze by condensation silicone: the wax is 406.9, the original 413.3 mm.
 * sizeChain(200, { bronzeMm: 400 }, { mould: 0.0045, wax: 0.011, metal: 0.017 });
 *
 * @param modelMm the model's length along some axis; @param known the bronze's length wanted, or null: the model is the original
 */
export function sizeChain(
  modelMm: number,
  known: { readonly bronzeMm: number | null },
  chain: ShrinkageChain,
): SizeChain {
  const model = positive('the model’s length', modelMm);
  const scale = originalScale(chain);
  const originalMm = known.bronzeMm === null ? model : positive('the bronze', known.bronzeMm) * scale.value;
  const waxMm = originalMm * (1 - chain.mould) * (1 - chain.wax);
  const bronzeMm = waxMm * (1 - chain.metal);
  const length = (value: number, inWords: Figure['inWords'], asked: boolean): Figure => ({
    value,
    unit: 'mm',
    source: asked ? 'default' : 'computed',
    inWords,
    inputs: scale.inputs,
  });
  const wanted = known.bronzeMm !== null;
  return {
    original: length(
      originalMm,
      wanted ? say`bronze ${mm(bronzeMm, 1)} × ${scale.value.toFixed(4)}: ${scale.inWords}` : 'the model as it is',
      !wanted,
    ),
    wax: length(waxMm, say`original ${mm(originalMm, 1)}, smaller by mould and wax`, false),
    bronze: length(bronzeMm, wanted ? 'as it is wanted' : say`original ${mm(originalMm, 1)}: ${scale.inWords}`, wanted),
    toWax: waxMm / model,
    toOriginal: originalMm / model,
  };
}
