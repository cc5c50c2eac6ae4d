import type { Alloy } from '../materials/alloys.ts';
import type { Method } from '../records/work.ts';
import type { Figure } from '../units/figure.ts';
import { within } from '../units/figure.ts';
import { percent } from '../units/quantity.ts';
import { say } from '../units/words.ts';

/** Linear shrinkages along the way from the original to the bronze, as shares (0.003 = 0.3 %). */
export interface ShrinkageChain {
  readonly mould: number;
  readonly wax: number;
  readonly metal: number;
}

/** Default shrinkage of mould rubbers: the middle of each material's range. */
export const RUBBERS = [
  { code: 'silicone-addition', label: 'addition silicone', shrinkage: 0.001 },
  { code: 'silicone-condensation', label: 'condensation silicone', shrinkage: 0.0045 },
  { code: 'urethane', label: 'urethane', shrinkage: 0.002 },
  { code: 'latex', label: 'latex', shrinkage: 0.04 },
] as const;

/**
 * By how much an original must be larger than the wanted bronze: 1 / ((1−s_mould)(1−s_wax)(1−s_metal)).
 * 0.3, 1.0 and 1.8 % give 1.0317. @throws RangeError where a shrinkage is not from 0 to 0.2
 */
export function originalScale({ mould, wax, metal }: ShrinkageChain): Figure {
  within('mould shrinkage', mould, 0, 0.2);
  within('wax shrinkage', wax, 0, 0.2);
  within('metal contraction', metal, 0, 0.2);
  return {
    value: 1 / ((1 - mould) * (1 - wax) * (1 - metal)),
    unit: '×',
    source: 'computed',
    inWords: say`mould ${percent(mould, 1)}, wax ${percent(wax, 1)}, metal ${percent(metal, 1)} smaller, one after the other`,
    inputs: { mould: percent(mould, 2), wax: percent(wax, 2), metal: percent(metal, 2) },
  };
}

/** The usual way from the original to the wax, until a shop has measured its own: condensation silicone, pattern wax. */
const USUAL = { mould: RUBBERS[1].shrinkage, wax: 0.011 };

/** The original's size for an alloy the usual way; a direct wax is the original itself, so only the metal shrinks. */
export const usualOriginalScale = (alloy: Alloy, method: Method = 'shell'): Figure =>
  originalScale(chainOfShrinkages(alloy, { method }));

/** What shrinks from the original to the bronze: the mould's rubber, the wax, the alloy; of a direct wax only the metal. */
export function chainOfShrinkages(
  alloy: Alloy,
  { rubber, method = 'shell' }: { readonly rubber?: string; readonly method?: Method } = {},
): ShrinkageChain {
  if (method === 'direct') return { mould: 0, wax: 0, metal: alloy.contraction };
  const mould = RUBBERS.find(({ code }) => code === rubber)?.shrinkage ?? USUAL.mould;
  return { mould, wax: USUAL.wax, metal: alloy.contraction };
}
