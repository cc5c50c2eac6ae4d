import type { Id, Instant, WhyAnswer } from '@kalvet/core';
import { changeWords, daysLate, pieceLabel, whyPiece } from '@kalvet/core';
import { changeNumber } from '../live/changes.ts';
import { notFound } from '../write/problem.ts';
import type { Store } from '../write/store.ts';
import { planSnapshot } from './make-plan.ts';
import { triedBy } from './tried-by.ts';

/**
 * Why a piece is out when it is, and what would help most. Runs in a worker thread; it is heavy.
 * @throws Problem where there is no such piece
 */
export async function whyAnswer(store: Store, now: Instant, pieceId: Id): Promise<WhyAnswer> {
  const basis = await changeNumber(store);
  const { snapshot, clock } = await planSnapshot(store, now);
  const piece = snapshot.index.piece.get(pieceId);
  if (!piece) throw notFound('piece');
  const why = whyPiece(snapshot, pieceId, triedBy(snapshot));
  const { dueDate } = piece;
  const label = pieceLabel(snapshot.index, piece);
  if (!why)
    return { basis, pieceId, label, finishesAt: null, dueDate, lateDays: 0, lateBefore: 0, links: [], reliefs: [] };
  return {
    basis,
    pieceId,
    label,
    finishesAt: clock.instantOf(why.finish),
    dueDate,
    lateDays: daysLate(snapshot, pieceId, why.finish),
    lateBefore: why.lateBefore,
    links: why.links.map(({ stepId, what, own, hold, words, start, end, waitsFrom }) => {
      const step = stepId === null ? undefined : snapshot.index.step.get(stepId);
      return {
        stepId,
        what,
        own,
        room: step ? snapshot.index.kind(step).room : null,
        waitsFrom: clock.instantOf(waitsFrom),
        startsAt: clock.instantOf(start),
        endsAt: clock.instantOf(end),
        hold,
        words,
      };
    }),
    reliefs: why.reliefs.map(({ change, finish, sooner, lateAfter }) => ({
      change,
      words: changeWords(change, snapshot),
      finishesAt: clock.instantOf(finish),
      soonerMinutes: sooner,
      lateAfter,
    })),
  };
}
