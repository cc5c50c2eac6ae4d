import type { Id, Instant, Step, WhatIf } from '@kalvet/core';
import {
  applyOps,
  closeStep,
  indexShop,
  isOpen,
  kindOf,
  never,
  outcomeOf,
  pieceLabel,
  piecesOfStep,
  planShop,
} from '@kalvet/core';
import { invalid, notFound, refused } from '../write/problem.ts';
import { newId } from '../write/new-id.ts';
import type { Store } from '../write/store.ts';
import { planSnapshot, plannedPieces, within } from './make-plan.ts';
import { currentPlan } from './read-plan.ts';

/** A day: less is not worth saying. */
const WORTH_SAYING_MS = 86_400_000 / 2;

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
export async function whatIf(
  store: Store,
  now: Instant,
  stepId: Id,
  outcome: string,
  { seconds = 0 } = {},
): Promise<WhatIf> {
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
  const after = planShop({ ...snapshot, index: indexShop(shop) }, within(seconds));
  if (after.schedule.status !== 'feasible') return { feasible: false, pieces: [] };
  const before = (await currentPlan(store)).pieces;
  // What it is about comes first, moved or not; then what it makes late.
  const own = new Set(piecesOfStep(index, step));
  return {
    feasible: true,
    pieces: plannedPieces(after, clock, shop.pieces)
      .filter(({ pieceId, finishesAt }) => {
        const was = before.get(pieceId)?.finishesAt;
        return (
          own.has(pieceId) || was === undefined || Math.abs(Date.parse(finishesAt) - Date.parse(was)) >= WORTH_SAYING_MS
        );
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
