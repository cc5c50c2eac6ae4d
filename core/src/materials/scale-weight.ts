import type { Id } from '../records/common.ts';
import type { Step } from '../records/step.ts';
import type { Weight, WeightOf } from '../records/wax.ts';
import type { Instant } from '../units/instant.ts';
import { positive } from '../units/figure.ts';

/** What a scale is good for: half a per cent, and never better than 5 g. */
const SHARE = 0.005;
const LEAST_KG = 0.005;

/**
 * A weight that somebody read off a scale, ± what a scale is good for.
 * @param kg what it showed, above zero
 * @throws RangeError where it shows nothing
 */
export function scaleWeight(
  id: Id,
  of: WeightOf,
  castId: Id,
  kg: number,
  { at, step }: { readonly at: Instant; readonly step: Step },
): Weight {
  return {
    id,
    of,
    castId,
    treeId: null,
    kind: 'scale',
    kg: positive('weight, kg', kg),
    plusMinusKg: Math.max(LEAST_KG, kg * SHARE),
    at,
    voidReason: null,
    stepId: step.id,
    version: 1,
  };
}
