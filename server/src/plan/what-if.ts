import type { Id, Instant, Step, WhatIf } from '@kalvet/core';
import {
  applyOps,
  closeStep,
  dayIn,
  indexShop,
  isOpen,
  kindOf,
  never,
  outcomeOf,
  pieceLabel,
  piecesOfStep,
  planKeepingWord,
} from '@kalvet/core';
import { invalid, notFound, refused } from '../write/problem.ts';
import { newId } from '../write/new-id.ts';
import type { Store } from '../write/store.ts';
import { planSnapshot, plannedPieces } from './make-plan.ts';

/** @throws Problem where nothing can be asked: no such step, none that is still to be done, no such outcome */
export function judgeQuestion(step: Step | undefined, outcome: string): asserts step is Step {
  if (!step) throw notFound('step');
  if (step.carrier === 'load' || step.carrier === 'heat' || !isOpen(step))
    throw refused([never('closed', 'This step is over: nothing it does can be asked any more.')]);
  if (!outcomeOf(kindOf(step.kind), outcome)) throw invalid({ outcome: 'is not an outcome of this step' });
}

/**
 * What an outcome would do to the dates, before it is taken: the shop is planned as though it were recorded. Nothing is
 * written. Runs in a worker thread; it is heavy.
 */
export async function whatIf(store: Store, now: Instant, stepId: Id, outcome: string): Promise<WhatIf> {
  const { snapshot, clock } = await planSnapshot(store, now);
  const { index } = snapshot;
  const step = index.step.get(stepId);
  judgeQuestion(step, outcome);
  const ops = closeStep(
    index,
    step,
    { startedAt: null, endedAt: now, by: [], recordedBy: null, outcome, readings: {}, note: 'what if', flags: [] },
    () => newId(),
  );
  const shop = applyOps(index.shop, ops);
  // Both are planned alike, from the plan in use: what differs is the outcome's doing, and no search's.
  const after = planKeepingWord({ ...snapshot, index: indexShop(shop) });
  if (after.schedule.status !== 'feasible') return { feasible: false, pieces: [] };
  const before = new Map(
    plannedPieces(planKeepingWord(snapshot), clock, index.shop.pieces).map((piece) => [piece.pieceId, piece]),
  );
  const zone = snapshot.settings.timeZone;
  const day = (instant: Instant | undefined) => instant && dayIn(instant, zone);
  // What it is about comes first, moved or not; then what it makes late.
  const own = new Set(piecesOfStep(index, step));
  return {
    feasible: true,
    pieces: plannedPieces(after, clock, shop.pieces)
      .filter(({ pieceId, finishesAt }) => {
        // Less than another day is not worth saying.
        return own.has(pieceId) || day(before.get(pieceId)?.finishesAt) !== day(finishesAt);
      })
      .map(({ pieceId, finishesAt, lateDays }) => ({
        pieceId,
        label: pieceLabel(index, index.piece.get(pieceId)!),
        before: before.get(pieceId)?.finishesAt ?? null,
        after: finishesAt,
        lateDays,
      }))
      .sort(
        (a, b) =>
          Number(own.has(b.pieceId)) - Number(own.has(a.pieceId)) ||
          b.lateDays - a.lateDays ||
          (b.after ?? '').localeCompare(a.after ?? ''),
      ),
  };
}
