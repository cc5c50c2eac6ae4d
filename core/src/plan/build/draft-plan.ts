import type { DraftChange } from '../../records/draft.ts';
import type { Id } from '../../records/common.ts';
import type { Doing } from '../../shop/act.ts';
import { DAY_MIN } from '../../units/instant.ts';
import { isOpen } from '../../records/step.ts';
import { planKeepingWord, triesFor } from './keep-word.ts';
import type { ShopPlan } from './shop-plan.ts';
import type { PlanSnapshot } from './snapshot.ts';
import { dueMinute } from './tasks.ts';
import type { Tried } from './try-changes.ts';
import { tryChanges } from './try-changes.ts';

/** A plan with the shop that it is of. */
export interface PlannedShop {
  readonly snapshot: PlanSnapshot;
  readonly plan: ShopPlan;
}

/** A draft is searched for a fraction of what a plan is: somebody waits, and several are compared. */
const DRAFT_SHARE = 15;

/**
 * Plans a shop as it is, for comparison, as a draft of it is planned: with few tries and the same ones, so that what differs
 * between two plans is the doing of what was changed.
 */
export function planAsIs(snapshot: PlanSnapshot): PlannedShop {
  const open = snapshot.index.shop.steps.filter(isOpen).length;
  return { snapshot, plan: planKeepingWord(snapshot, { tries: Math.round(triesFor(open) / DRAFT_SHARE) }) };
}

/** Plans a shop with changes, in the same way. */
export function planWith(
  snapshot: PlanSnapshot,
  changes: readonly DraftChange[],
  doing: Doing,
): PlannedShop & Pick<Tried, 'faults'> {
  const tried = tryChanges(snapshot, changes, doing);
  return { ...planAsIs(tried.snapshot), faults: tried.faults };
}

/** When each piece is out, in minutes: the end of its last step, those of its sections included. */
export function pieceEnds({ plan }: Pick<PlannedShop, 'plan'>): Map<Id, number> {
  const at = new Map(plan.schedule.tasks.map(({ id, end }) => [id, end]));
  const ends = new Map<Id, number>();
  for (const { id, job } of plan.problem.tasks)
    if (at.has(id)) ends.set(job, Math.max(ends.get(job) ?? -Infinity, at.get(id)!));
  return ends;
}

/** By how many whole days a piece is late; 0 where it is not, or nothing is due. */
export function daysLate(snapshot: PlanSnapshot, pieceId: Id, end: number | undefined): number {
  const piece = snapshot.index.piece.get(pieceId);
  const due = piece && dueMinute(snapshot.startDay, piece);
  return due === undefined || end === undefined ? 0 : Math.max(0, Math.ceil((end - due) / DAY_MIN));
}

/** How many pieces are late in a plan. */
export function countLate(planned: PlannedShop, ends = pieceEnds(planned)): number {
  return planned.snapshot.index.shop.pieces.filter(({ id }) => daysLate(planned.snapshot, id, ends.get(id)) > 0).length;
}
