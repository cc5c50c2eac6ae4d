import type { Mould } from '../records/mould.ts';
import { isOpen } from '../records/step.ts';
import type { Piece } from '../records/work.ts';
import { pieceLabel } from './labels.ts';
import type { ShopIndex } from './shop-index.ts';
import { currentCasts, treeOfCast } from './shop-index.ts';
import { castWeights } from './weights.ts';

/** Something that waits for a person's judgement, in shop words. */
export interface Decision {
  readonly text: string;
  readonly urgent: boolean;
}

/** What a piece wants decided: a wax outside its band, a leak, a short pour, a piece lost with its only wax. */
export function pieceDecisions(index: ShopIndex, piece: Piece, band: number): Decision[] {
  const name = pieceLabel(index, piece);
  if (piece.state === 'lost')
    return [{ text: `${name}: its only wax is lost. Model it again, or give it up?`, urgent: true }];
  return currentCasts(index, piece).flatMap((cast) => {
    const decisions: Decision[] = [];
    const section = index.section.get(cast.sectionId)!;
    const single = (index.sectionsOf.get(piece.workId) ?? []).length === 1;
    const what = single ? name : `${name} ${section.name}`;
    const tree = treeOfCast(index, cast.id);
    const onTree = (index.stepsOf.get(tree?.id ?? '') ?? []).filter((step) => step.state !== 'void');
    const joined = onTree.some((step) => step.kind === 'join-tree' && !isOpen(step));
    const deviation = castWeights(index, section, cast.id, band).deviation;
    if (deviation?.flagged && !joined) decisions.push({ text: `${what}: ${lower(deviation.inWords)}`, urgent: true });
    const patch = onTree.find((step) => step.kind === 'patch' && step.state === 'planned');
    if (patch)
      decisions.push({
        text: `${what}: leak at test (${patch.insertedWhy}): patch or recast?`,
        urgent: true,
      });
    const short = onTree.find((step) => step.kind === 'pour' && step.outcome === 'short');
    const inspected = (index.stepsOf.get(cast.id) ?? []).some((step) => step.kind === 'inspect' && !isOpen(step));
    if (short && !inspected)
      decisions.push({
        text: `${what}: poured short. Weld or recast?`,
        urgent: true,
      });
    return decisions;
  });
}

const lower = (text: string) => text.charAt(0).toLowerCase() + text.slice(1);

/** Pulls a mould has made and still owes. */
export interface MouldCount {
  readonly used: number;
  readonly owed: number;
  readonly left: number | null;
}

/** Counts a mould's pulls: used ones include those before Kalvet; owed are the pulls still open that it serves alone or shares. */
export function mouldCount(index: ShopIndex, mould: Mould): MouldCount {
  const used =
    mould.pullsBefore + index.shop.pulls.filter((pull) => pull.mouldId === mould.id && pull.outcome !== 'void').length;
  const owed = index.shop.steps.filter((step) => {
    if (step.kind !== 'pull' || step.state !== 'planned') return false;
    const cast = index.cast.get(step.carrierId);
    return cast !== undefined && mould.sectionIds.includes(cast.sectionId);
  }).length;
  return { used, owed, left: mould.lifePulls === null ? null : Math.max(0, mould.lifePulls - used) };
}

/** A mould that will not last for what it owes. */
export function mouldDecisions(index: ShopIndex, mould: Mould): Decision[] {
  const { left, owed } = mouldCount(index, mould);
  if (mould.state === 'retired' || left === null || left >= owed) return [];
  const title = index.work.get(mould.workId)?.title ?? '';
  return [
    {
      text: `${title} mould M-${mould.number} ${mould.name}: ${left} pulls left, ${owed} owed`,
      urgent: false,
    },
  ];
}
