import type { DrynessReading, LearnedDrying } from '../records/climate.ts';
import { median } from '../units/median.ts';

/** A coat found wet and later dry lies between the two, where they are not farther apart than this. */
const NEAR = 1.6;
/** What was found wet took so much longer than the sum said, at least. */
const LONGER = 1.1;
/** So many coats weigh as much as what was taken to begin with. */
const PRIOR = 3;
const [LEAST, MOST] = [0.3, 3];

/**
 * The factor on the shop's reference times that its own readings speak for: the median of its coats, weighed n/(n + 3)
 * against 1. Of a coat that was found wet and soon after dry it lies between the two; one found dry before the sum said so, or
 * wet after it, says how far the sum was off. One that was only found dry the next day says nothing.
 */
export function learnedDrying(
  readings: readonly Pick<DrynessReading, 'stepId' | 'dry' | 'formulaShare' | 'voidReason'>[],
): LearnedDrying {
  const coats = new Map<string, { wet: number; dry: number }>();
  for (const { stepId, dry, formulaShare, voidReason } of readings) {
    if (formulaShare === null || formulaShare <= 0 || voidReason !== null) continue;
    const coat = coats.get(stepId) ?? { wet: 0, dry: Infinity };
    if (dry) coat.dry = Math.min(coat.dry, formulaShare);
    else coat.wet = Math.max(coat.wet, formulaShare);
    coats.set(stepId, coat);
  }
  const factors = [...coats.values()].flatMap(({ wet, dry }) => {
    if (wet > 0 && dry <= wet * NEAR) return [Math.max(wet, (wet + dry) / 2)];
    if (dry <= 1) return [dry];
    return wet >= 1 ? [wet * LONGER] : [];
  });
  const n = factors.length;
  if (n === 0) return { factor: 1, n };
  const factor = (n * median(factors)! + PRIOR) / (n + PRIOR);
  return { factor: Math.min(MOST, Math.max(LEAST, factor)), n };
}
