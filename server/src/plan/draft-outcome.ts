import type { DraftChange, DraftOutcome, DraftPiece, Id, Instant, Likely, PlanNote, PlannedShop } from '@kalvet/core';
import { countLate, dayIn, daysLate, pieceEnds, pieceLabel, planAsIs, planWith, promiseDates } from '@kalvet/core';
import { changeNumber } from '../live/changes.ts';
import type { Store } from '../write/store.ts';
import { planSnapshot } from './make-plan.ts';
import { triedBy } from './tried-by.ts';
import type { WallClock } from './wall-clock.ts';

/** Runs that the dates of what is asked for are worked out from. */
const RUNS = 100;

/** What changes would do to the dates: the shop is planned with them and without, alike. Nothing is written. */
export async function draftOutcome(store: Store, now: Instant, changes: readonly DraftChange[]): Promise<DraftOutcome> {
  const basis = await changeNumber(store);
  const { snapshot, clock } = await planSnapshot(store, now);
  const without = planAsIs(snapshot);
  const tried = planWith(snapshot, changes, triedBy(snapshot));
  const feasible = tried.plan.schedule.status === 'feasible' && without.plan.schedule.status === 'feasible';
  const [before, after] = [pieceEnds(without), pieceEnds(tried)];
  // The same trouble on another day is no new one.
  const nameOf = ({ cause, stepId, mouldId = '' }: PlanNote) => `${cause} ${stepId} ${mouldId}`;
  const known = new Set(without.plan.notes.map(nameOf));
  const isNew = (id: Id) => !snapshot.index.piece.has(id);
  const likely =
    feasible && tried.snapshot.index.shop.pieces.some(({ id }) => isNew(id)) ? likelyOf(tried, clock) : undefined;
  const day = (end: number | undefined) =>
    end === undefined ? '' : dayIn(clock.instantOf(end), snapshot.settings.timeZone);
  const all = tried.snapshot.index.shop.pieces
    .filter(({ id }) => before.has(id) || after.has(id))
    .map(({ id, dueDate }) => ({
      moves:
        isNew(id) || day(before.get(id)) !== day(after.get(id)) || dueDate !== snapshot.index.piece.get(id)?.dueDate,
      piece: pieceIn(tried, id, {
        isNew: isNew(id),
        before: before.has(id) ? clock.instantOf(before.get(id)!) : null,
        after: after.has(id) ? clock.instantOf(after.get(id)!) : null,
        lateBefore: isNew(id) ? 0 : daysLate(snapshot, id, before.get(id)),
        lateAfter: daysLate(tried.snapshot, id, after.get(id)),
        likely: likely?.get(id) ?? null,
      }),
    }));
  return {
    basis,
    feasible,
    faults: tried.faults,
    pieces: feasible
      ? all
          .filter(({ moves }) => moves)
          .map(({ piece }) => piece)
          .sort(byCost)
      : [],
    unmoved: all.filter(({ moves }) => !moves).length,
    lateBefore: countLate(without, before),
    lateAfter: countLate(tried, after),
    notes: tried.plan.notes.filter((note) => !known.has(nameOf(note))).map(({ text }) => text),
  };
}

function pieceIn(
  { snapshot: { index } }: PlannedShop,
  pieceId: Id,
  rest: Omit<DraftPiece, 'pieceId' | 'label' | 'dueDate'>,
): DraftPiece {
  const piece = index.piece.get(pieceId)!;
  return { pieceId, label: pieceLabel(index, piece), dueDate: piece.dueDate, ...rest };
}

function likelyOf({ plan }: PlannedShop, clock: WallClock): ReadonlyMap<Id, Likely> {
  const { jobs } = promiseDates(plan.problem, plan.schedule, { runs: RUNS, lived: true });
  return new Map(
    jobs.map(({ id, p50, p90 }) => [id, { evenAt: clock.instantOf(p50), ninetyAt: clock.instantOf(p90) }]),
  );
}

/** What is new first, then what is late by it, then what moves furthest. */
function byCost(one: DraftPiece, other: DraftPiece): number {
  const moved = ({ before, after }: DraftPiece) =>
    before === null || after === null ? Infinity : Date.parse(after) - Date.parse(before);
  return (
    Number(other.isNew) - Number(one.isNew) ||
    other.lateAfter - other.lateBefore - (one.lateAfter - one.lateBefore) ||
    moved(other) - moved(one) ||
    one.label.localeCompare(other.label, 'en', { numeric: true })
  );
}
