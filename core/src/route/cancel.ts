import type { Op } from '../records/shop.ts';
import { insert, update } from '../records/shop.ts';
import { isOpen } from '../records/step.ts';
import type { Piece } from '../records/work.ts';
import type { Instant } from '../units/instant.ts';
import { plannedStep } from './grow.ts';
import { voidOpenSteps } from './lose.ts';
import type { ShopIndex } from './shop-index.ts';
import type { NewId } from './step-kind.ts';
import { castsOfTree, currentCasts, treeOfCast } from './shop-index.ts';

/**
 * A piece is cancelled: what was open becomes void, its casts leave trees that go on with others, and where it was the one
 * whose wax the rest waits for, the next piece is shown instead.
 */
export function cancelPieceOps(index: ShopIndex, piece: Piece, at: Instant, newId: NewId): Op[] {
  const casts = currentCasts(index, piece);
  const ids = new Set(casts.map((cast) => cast.id));
  const trees = new Set(casts.map((cast) => treeOfCast(index, cast.id)?.id).filter((id) => id !== undefined));
  return [
    update('pieces', piece.id, { state: 'cancelled' }),
    ...voidOpenSteps(index, piece.id),
    ...casts.flatMap((cast) => [
      ...voidOpenSteps(index, cast.id),
      ...(cast.state === 'planned' ? [update('casts', cast.id, { state: 'void' })] : []),
      ...(index.treesOf.get(cast.id) ?? [])
        .filter((member) => member.until === null)
        .map((member) => update('treeCasts', member.id, { until: at })),
    ]),
    ...[...trees].flatMap((treeId) =>
      castsOfTree(index, treeId).every((cast) => ids.has(cast.id))
        ? [
            ...(index.tree.get(treeId)!.state === 'knocked out' ? [] : [update('trees', treeId, { state: 'void' })]),
            ...voidOpenSteps(index, treeId),
          ]
        : [],
    ),
    ...passApprovalOn(index, piece, newId),
  ];
}

function passApprovalOn(index: ShopIndex, piece: Piece, newId: NewId): Op[] {
  const work = index.work.get(piece.workId);
  const waiting = (index.stepsOf.get(piece.id) ?? []).find((step) => index.kind(step).approvesWax && isOpen(step));
  if (work?.approval !== 'first' || !waiting) return [];
  const next = (index.piecesOf.get(piece.workId) ?? []).find(
    (each) => each.id !== piece.id && (each.state === 'not begun' || each.state === 'in work' || each.state === 'hold'),
  );
  return next ? [insert('steps', plannedStep(newId, index.route(next.routeVersion).approval, 'piece', next.id))] : [];
}
