import type { Step } from '../records/step.ts';
import { fromMs, toMs } from '../units/instant.ts';
import { quantity } from '../units/quantity.ts';
import { at, say, span } from '../units/words.ts';
import { dryingOf, drynessOf, expectedMinutes, placeNow } from './drying.ts';
import type { ShopIndex } from './shop-index.ts';
import { coatOf, isSeal } from './coat-of.ts';
import { castsOfTree } from './shop-index.ts';
import type { Site, Waits } from './step-kind.ts';
import { timesOf } from './times.ts';

/** Where nothing dries at all, the wait is as long as anything is said ahead: two weeks. */
const NEVER_MIN = 14 * 24 * 60;
/** What takes long to dry does not grow too old before it is: so long after at least. */
const AFTER_DRY_MIN = 12 * 60;

/** The waits after a step: its kind's, or the shop's own, by what it is done to and the air that it dries in. */
export function waitsAfter(index: ShopIndex, step: Step): Waits {
  const waits = referenceWaits(index, step);
  return index.kind(step).driesInAir && step.carrier === 'tree' ? inAir(index, step, waits) : waits;
}

/** The waits after a step in the air that the shop's times are for. */
export function referenceWaits(index: ShopIndex, step: Step): Waits {
  const kind = index.kind(step);
  const { minWait, maxWait } = timesOf(kind, index.shop.routeTimes);
  const usual = { min: minWait, max: maxWait };
  return kind.waits ? kind.waits(usual, siteOf(index, step)) : usual;
}

function inAir(index: ShopIndex, step: Step, { min, max }: Waits): Waits {
  if (!index.shop.climate || min <= 0) return { min, max };
  const later = (own: number) => (max === null ? null : Math.max(max, own + AFTER_DRY_MIN));
  if (step.endedAt === null) {
    const expected = expectedMinutes(index, step, min);
    return { min: expected, max: later(expected) };
  }
  const course = dryingOf(index, step, min);
  if (!course) return { min, max };
  if (course.dryMs === null) return { min: NEVER_MIN, max: later(NEVER_MIN), why: 'nothing dries in this air' };
  const own = Math.ceil((course.dryMs - toMs(step.endedAt)) / 60_000);
  const look = drynessOf(index, step.id).at(-1);
  const { referenceK, learned } = index.shop.climate;
  const airflow = placeNow(index, step.carrierId)?.airflow ?? 1;
  const meanK = (min * referenceK * learned.factor * airflow) / Math.max(1, own);
  return {
    min: own,
    max: later(own),
    why: look
      ? say`looked at ${at(fromMs(toMs(look.at)))}: ${look.dry ? 'dry' : 'still wet'}`
      : say`in air of ${quantity(meanK, 'K', 1)}, where ${span(min)} are for ${quantity(referenceK, 'K', 1)}`,
  };
}

function siteOf(index: ShopIndex, step: Step): Site {
  const casts = step.carrier === 'tree' ? castsOfTree(index, step.carrierId) : [];
  return {
    sequence: step.sequence,
    isSeal: isSeal(index, step),
    coatMinutes: coatOf(index, step)?.waitMinutes ?? null,
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
