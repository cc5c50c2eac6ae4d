import type { Day, Id, Instant, PlanRow, PlannedPiece, Text } from '@kalvet/core';
import { dayIn } from '@kalvet/core';
import { Op } from 'sequelize';
import { rowsOf } from '../db/rows.ts';
import type { Store } from '../write/store.ts';
import { IDLE_VERBS } from './idle-verbs.ts';
import type { CurrentPlan } from './read-plan.ts';

interface Before {
  readonly id: Id;
  readonly basis: number;
  readonly madeAt: Date;
}

interface Moves {
  readonly since: Instant | null;
  readonly of: ReadonlyMap<Id, NonNullable<PlanRow['moved']>>;
}

/** Which pieces are out on another day than the last plan of a day before said, and what happened to each since. */
export async function movesSince(
  store: Store,
  { pieces }: CurrentPlan,
  { day, zone }: { readonly day: Day; readonly zone: string },
): Promise<Moves> {
  const plans = (await store.models.plans.findAll({
    attributes: ['id', 'basis', 'madeAt'],
    order: [['taken', 'DESC']],
    raw: true,
  })) as unknown as Before[];
  const before = plans.find(({ madeAt }) => dayIn(madeAt.toISOString(), zone) < day);
  if (!before) return { since: null, of: new Map() };
  const [row] = await rowsOf<{ pieces: PlannedPiece[] }>(store, 'plans', { id: before.id });
  const moved = (row?.pieces ?? []).filter(({ pieceId, finishesAt }) => {
    const now = pieces.get(pieceId);
    return now !== undefined && dayIn(now.finishesAt, zone) !== dayIn(finishesAt, zone);
  });
  const because = await newestOf(
    store,
    before.basis,
    moved.map(({ pieceId }) => pieceId),
  );
  return {
    since: before.madeAt.toISOString(),
    of: new Map(
      moved.map(({ pieceId, finishesAt }) => [pieceId, { from: finishesAt, because: because.get(pieceId) ?? null }]),
    ),
  };
}

/** The newest change of each piece after a number that may move dates, in its words. */
async function newestOf(store: Store, basis: number, pieceIds: readonly Id[]): Promise<Map<Id, Text>> {
  if (pieceIds.length === 0) return new Map();
  const subjects = await rowsOf<{ subject: Id; number: number }>(store, 'eventSubjects', {
    subject: pieceIds,
    number: { [Op.gt]: basis },
  });
  const events = await rowsOf<{ number: number; text: string; says: Text | null }>(store, 'events', {
    number: [...new Set(subjects.map(({ number }) => number))],
    verb: { [Op.notIn]: IDLE_VERBS },
    takenBackBy: null,
  });
  const texts = new Map(events.map(({ number, text, says }) => [number, says ?? text]));
  const newest = new Map<Id, number>();
  for (const { subject, number } of subjects)
    if (texts.has(number)) newest.set(subject, Math.max(newest.get(subject) ?? 0, number));
  return new Map([...newest].map(([id, number]) => [id, texts.get(number)!]));
}
