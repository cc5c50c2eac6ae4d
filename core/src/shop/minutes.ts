import { firingMinutes } from '../burnout/firing-minutes.ts';
import type { Id } from '../records/common.ts';
import type { Step } from '../records/step.ts';
import type { ShopIndex } from '../route/shop-index.ts';
import { castsOfTree } from '../route/shop-index.ts';
import type { Size } from '../route/step-kind.ts';
import { timesOf } from '../route/times.ts';
import { pieceWeight } from './piece-weight.ts';
import { firingProfileOf } from './firing-profile-of.ts';
import { treeFigures } from './tree-figures.ts';

/**
 * Hands-on minutes of a step: the shop's own, else as long as its firing lasts or by the size of the work where its room knows
 * how, else usual.
 */
export function minutesOf(index: ShopIndex, step: Step): number {
  const own = index.shop.routeTimes;
  const kind = index.kind(step);
  const { minutes } = timesOf(kind, own);
  if (own?.[step.kind]?.minutes !== undefined) return minutes;
  const firing = firingProfileOf(index, step);
  return firing ? firingMinutes(firing) : (kind.effort?.(sizeOf(index, step)) ?? minutes);
}

/** What a kind's hours come from: the step's piece, mould or tree. */
export function sizeOf(index: ShopIndex, step: Step): Size {
  const piece = step.carrier === 'piece' ? index.piece.get(step.carrierId) : undefined;
  const inMould = index.mould.get(step.carrierId)?.sectionIds.map((id) => index.section.get(id)!);
  const areas = (inMould ?? index.sectionsOf.get(piece?.workId ?? '') ?? []).map(({ areaCm2 }) => areaCm2);
  return {
    // No seam can be of no length; one that was entered so counts as not given.
    seamM: index.section.get(step.sectionId ?? '')?.seamM || null,
    areaCm2: areas.every((each) => each !== null) ? areas.reduce((sum: number, each) => sum + each!, 0) || null : null,
    get weightKg() {
      return piece ? (pieceWeight(index, piece, 0)?.value ?? null) : null;
    },
    get casts() {
      return step.carrier === 'tree' ? castsOfTree(index, step.carrierId).length : 0;
    },
    get metalKg() {
      return step.carrier === 'tree' ? metalOfTree(index, step.carrierId) : null;
    },
  };
}

/** What may be lifted has no say in what the metal weighs. */
const ANY_LIFT_KG = 1e6;

/** Poured, else planned in its heat, else as its waxes and bars say, kg. */
function metalOfTree(index: ShopIndex, treeId: Id): number | null {
  const pouring = index.pouringsOf.get(treeId)?.at(-1);
  return (
    pouring?.pouredKg ?? pouring?.plannedKg ?? treeFigures(index, treeId, ANY_LIFT_KG).metal?.pourWeight.value ?? null
  );
}
