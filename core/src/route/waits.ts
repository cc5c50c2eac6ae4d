import { timesOf } from '../records/planning.ts';
import type { Step } from '../records/step.ts';
import { HOUR_MIN } from '../units/instant.ts';
import { coolingMinutes } from '../pour/cooling.ts';
import type { ShopIndex } from './shop-index.ts';
import { castsOfTree } from './shop-index.ts';

/** What must pass between a step and what follows it, in elapsed minutes. */
export interface Waits {
  readonly min: number;
  readonly max: number | null;
}

/** Fine face coats dry sooner; a deep hollow takes three times as long. */
const FACE_COATS = 2;
const FACE_WAIT = 3 * HOUR_MIN;
const DEEP_FACTOR = 3;

/** The waits after a step, from its kind, its coat number, the hollows of what is on the tree, and the metal poured. */
export function waitsAfter(index: ShopIndex, step: Step): Waits {
  const { minWait, maxWait } = timesOf(step.kind, index.shop.routeTimes);
  if (step.kind === 'coat') {
    const deep = castsOfTree(index, step.carrierId).some((cast) => index.section.get(cast.sectionId)?.deep);
    return {
      min: (step.sequence <= FACE_COATS ? FACE_WAIT : minWait) * (deep ? DEEP_FACTOR : 1),
      max: maxWait,
    };
  }
  if (step.kind === 'pour') return { min: coolingMinutes(metalInTree(index, step)), max: null };
  return { min: minWait, max: maxWait };
}

/** What was poured into the tree, else what the heat planned for it, kg. */
function metalInTree(index: ShopIndex, step: Step): number {
  const poured = step.readings['pouredKg'];
  if (typeof poured === 'number') return poured;
  return index.pouringsOf.get(step.carrierId)?.at(-1)?.plannedKg ?? 0;
}
