import type { Id } from '../records/common.ts';
import type { Mould } from '../records/mould.ts';
import { isClosed, isOpen } from '../records/step.ts';
import type { Piece } from '../records/work.ts';
import type { MouldCount } from '../mould/mould-count.ts';
import { mouldCount } from '../mould/mould-count.ts';
import { pieceLabel } from '../route/labels.ts';
import type { ShopIndex } from '../route/shop-index.ts';
import { currentCasts, treeOfCast } from '../route/shop-index.ts';
import type { Asking } from '../route/step-kind.ts';
import type { Text } from '../units/words.ts';
import { lowered, say } from '../units/words.ts';
import { castWeights } from './cast-weights.ts';

/** Something that waits for a person's judgement. */
export type Decision = Asking;

/** What a piece wants decided: a wax outside its band, and whatever its steps' rooms ask (a leak, a short pour). */
export function pieceDecisions(index: ShopIndex, piece: Piece, band: number): Decision[] {
  const name = pieceLabel(index, piece);
  if (piece.state === 'lost')
    return [{ text: say`${name}: its only wax is lost. Model it again, or give it up?`, urgent: true }];
  const single = (index.sectionsOf.get(piece.workId) ?? []).length === 1;
  return currentCasts(index, piece).flatMap((cast) => {
    const section = index.section.get(cast.sectionId)!;
    const what = single ? name : `${name} ${section.name}`;
    const about = (text: Text) => (typeof text === 'string' ? say`${what}: ${text}` : say`${what}: ${text}`);
    const tree = treeOfCast(index, cast.id);
    const onTree = (index.stepsOf.get(tree?.id ?? '') ?? []).filter((step) => step.state !== 'void');
    const joined = onTree.some((step) => index.kind(step).joinsTree && !isOpen(step));
    const { deviation } = castWeights(index, section, cast.id, band);
    const inspected = (index.stepsOf.get(cast.id) ?? []).some((step) => index.kind(step).inspects && isClosed(step));
    return [
      ...(deviation?.flagged && !joined ? [{ text: about(lowered(deviation.inWords)), urgent: true }] : []),
      ...onTree.flatMap((step) => {
        const asked = index.kind(step).asks?.(step, { inspected });
        return asked ? [{ ...asked, text: about(asked.text) }] : [];
      }),
    ];
  });
}

interface Pulls {
  /** Made in each mould, and whether a wax is in it now. */
  readonly made: ReadonlyMap<Id, number>;
  readonly filled: ReadonlySet<Id>;
  /** Still to be made of each section. */
  readonly owed: ReadonlyMap<Id, number>;
}

/** Worked out once for a shop as it stands: it is asked of every mould, and goes through every step. */
const known = new WeakMap<ShopIndex, Pulls>();

function pullsIn(index: ShopIndex): Pulls {
  const found = known.get(index);
  if (found) return found;
  const made = new Map<Id, number>();
  const filled = new Set<Id>();
  for (const { mouldId, outcome, endedAt } of index.shop.pulls) {
    if (outcome !== 'void') made.set(mouldId, (made.get(mouldId) ?? 0) + 1);
    if (endedAt === null) filled.add(mouldId);
  }
  const owed = new Map<Id, number>();
  for (const step of index.shop.steps) {
    if (step.state !== 'planned' || step.carrier !== 'cast' || !index.kind(step).usesMould) continue;
    const sectionId = index.cast.get(step.carrierId)?.sectionId;
    if (sectionId !== undefined) owed.set(sectionId, (owed.get(sectionId) ?? 0) + 1);
  }
  const pulls = { made, filled, owed };
  known.set(index, pulls);
  return pulls;
}

/** A mould's pulls, made and owed, from the records. */
export function mouldUse(index: ShopIndex, mould: Mould): MouldCount {
  const { made, owed } = pullsIn(index);
  const still = mould.sectionIds.reduce((sum, id) => sum + (owed.get(id) ?? 0), 0);
  return mouldCount(mould, made.get(mould.id) ?? 0, still);
}

/** Whether a wax is in the mould now. */
export const mouldInUse = (index: ShopIndex, mouldId: Id): boolean => pullsIn(index).filled.has(mouldId);

/** A mould that will not last for what it owes. */
export function mouldDecisions(index: ShopIndex, mould: Mould): Decision[] {
  const { left, owed } = mouldUse(index, mould);
  if (mould.state === 'retired' || left === null || left >= owed) return [];
  const title = index.work.get(mould.workId)?.title ?? '';
  return [
    {
      text: say`${title} mould M-${mould.number} ${mould.name}: ${left} pulls left, ${owed} owed`,
      urgent: false,
    },
  ];
}
