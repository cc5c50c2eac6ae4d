import type { Id, Instant, PlanNote, PlanStand, PlannedPiece } from '@kalvet/core';
import { QueryTypes } from 'sequelize';
import { asInstant } from '../db/tables.ts';
import { parsedData } from '../shop/stored.ts';
import type { Store } from '../write/context.ts';

/** The plan in use, with its pieces' dates. */
export interface CurrentPlan {
  readonly stand: PlanStand;
  readonly pieces: ReadonlyMap<Id, PlannedPiece>;
}

interface Kept {
  readonly id: Id;
  readonly notes: readonly PlanNote[];
  readonly pieces: ReadonlyMap<Id, PlannedPiece>;
}

/** A plan never changes, so the last one read is kept with its store. */
const known = new WeakMap<Store, Kept>();

interface StandRow {
  readonly id: Id | null;
  readonly madeAt: Date | string | null;
  readonly since: number;
  readonly state: string;
  readonly error: string | null;
}

/** The plan in use and where it stands. */
export async function currentPlan(store: Store): Promise<CurrentPlan> {
  const [row] = await store.db.query<StandRow>(
    `SELECT p.id, p.madeAt, c.state, c.error,
            (SELECT COUNT(*) FROM event e WHERE e.number > p.basis AND e.verb NOT IN ('take plan','add person','change person')) AS since
       FROM computation c LEFT JOIN plan p ON p.state = 'current' WHERE c.kind = 'plan' ORDER BY p.madeAt DESC LIMIT 1`,
    { type: QueryTypes.SELECT },
  );
  const kept = row?.id ? await readKept(store, row.id) : undefined;
  return {
    stand: {
      planId: row?.id ?? null,
      madeAt: row?.madeAt ? asInstant(row.madeAt) : null,
      changesSince: Number(row?.since ?? 0),
      running: row?.state === 'running',
      failed: row?.state === 'failed' ? row.error : null,
      notes: kept?.notes ?? [],
    },
    pieces: kept?.pieces ?? new Map(),
  };
}

async function readKept(store: Store, id: Id): Promise<Kept> {
  const found = known.get(store);
  if (found?.id === id) return found;
  const [row] = await store.db.query<{ notes: unknown; pieces: unknown }>(
    'SELECT notes, pieces FROM plan WHERE id = ?',
    {
      replacements: [id],
      type: QueryTypes.SELECT,
    },
  );
  const pieces = parsedData<PlannedPiece[]>(row?.pieces ?? '[]');
  const kept = {
    id,
    notes: parsedData<PlanNote[]>(row?.notes ?? '[]'),
    pieces: new Map(pieces.map((piece) => [piece.pieceId, piece])),
  };
  known.set(store, kept);
  return kept;
}

/** A step's dates in the plan in use. */
export interface Dates {
  readonly startsAt: Instant;
  readonly endsAt: Instant;
  readonly load: string | null;
}

/** When steps are planned; those that the plan does not hold are missing. */
export async function plannedDates(store: Store, planId: Id | null, stepIds: readonly Id[]): Promise<Map<Id, Dates>> {
  if (planId === null || stepIds.length === 0) return new Map();
  const rows = await store.db.query<{
    stepId: Id;
    startsAt: Date | string;
    endsAt: Date | string;
    load_: string | null;
  }>('SELECT stepId, startsAt, endsAt, load_ FROM planned_step WHERE planId = :planId AND stepId IN (:stepIds)', {
    replacements: { planId, stepIds },
    type: QueryTypes.SELECT,
  });
  return new Map(
    rows.map(({ stepId, startsAt, endsAt, load_ }) => [
      stepId,
      { startsAt: asInstant(startsAt), endsAt: asInstant(endsAt), load: load_ },
    ]),
  );
}
