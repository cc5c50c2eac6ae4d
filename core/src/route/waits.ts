import type { Step } from '../records/step.ts';
import type { ShopIndex } from './shop-index.ts';
import { coatCount } from './labels.ts';
import { castsOfTree } from './shop-index.ts';
import type { Site, Waits } from './step-kind.ts';
import { timesOf } from './times.ts';

/** The waits after a step: its kind's, or the shop's own, by what it is done to. */
export function waitsAfter(index: ShopIndex, step: Step): Waits {
  const kind = index.kind(step);
  const { minWait, maxWait } = timesOf(kind, index.shop.routeTimes);
  const usual = { min: minWait, max: maxWait };
  return kind.waits ? kind.waits(usual, siteOf(index, step)) : usual;
}

function siteOf(index: ShopIndex, step: Step): Site {
  const casts = step.carrier === 'tree' ? castsOfTree(index, step.carrierId) : [];
  return {
    sequence: step.sequence,
    isSeal: index.kind(step).coat === true && step.sequence === coatCount(index, step.carrierId),
    deep: casts.some(({ sectionId }) => index.section.get(sectionId)?.deep),
    metalKg: metalInTree(index, step),
    isBlock: step.carrier === 'tree' && index.tree.get(step.carrierId)?.method === 'block',
  };
}

/** What was poured into the tree with this step, else what a heat planned for it, kg. */
function metalInTree(index: ShopIndex, step: Step): number {
  const pourings = index.pouringsOf.get(step.carrierId) ?? [];
  const own = pourings.find(({ stepId }) => stepId === step.id) ?? pourings.at(-1);
  return own?.pouredKg ?? own?.plannedKg ?? 0;
}
