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

/** A mould's pulls, made and owed, from the records. */
export function mouldUse(index: ShopIndex, mould: Mould): MouldCount {
  const pulled = index.shop.pulls.filter((pull) => pull.mouldId === mould.id && pull.outcome !== 'void').length;
  const owed = index.shop.steps.filter((step) => {
    if (step.state !== 'planned' || step.carrier !== 'cast' || !index.kind(step).usesMould) return false;
    const cast = index.cast.get(step.carrierId);
    return cast !== undefined && mould.sectionIds.includes(cast.sectionId);
  }).length;
  return mouldCount(mould, pulled, owed);
}

/** Whether a wax is in the mould now. */
export const mouldInUse = (index: ShopIndex, mouldId: string): boolean =>
  index.shop.pulls.some((pull) => pull.mouldId === mouldId && pull.endedAt === null);

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
