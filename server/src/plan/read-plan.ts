import type {
  Dates,
  HandsWeeks,
  Id,
  Instant,
  Likely,
  PlanNote,
  PlanStand,
  PlannedPiece,
  TreeReady,
} from '@kalvet/core';
import { Op } from 'sequelize';
import { rowsOf } from '../db/rows.ts';
import type { Store } from '../write/store.ts';
import { IDLE_VERBS } from './idle-verbs.ts';

/** The plan in use, with its pieces' dates. */
export interface CurrentPlan {
  readonly stand: PlanStand;
  readonly pieces: ReadonlyMap<Id, PlannedPiece>;
  /** When each order is ready, with its chances. */
  readonly orders: ReadonlyMap<Id, Likely>;
  /** How much work there is for each room's hands by week; none in plans from before it was worked out. */
  readonly weeks: readonly HandsWeeks[];
  /** From when each tree could be poured; none in plans from before it was worked out. */
  readonly ready: ReadonlyMap<Id, TreeReady>;
}

interface Kept {
  readonly id: Id;
  readonly notes: readonly PlanNote[];
  readonly pieces: ReadonlyMap<Id, PlannedPiece>;
  readonly orders: ReadonlyMap<Id, Likely>;
  readonly weeks: readonly HandsWeeks[];
  readonly ready: ReadonlyMap<Id, TreeReady>;
}

interface KeptRow {
  readonly notes: PlanNote[];
  readonly pieces: PlannedPiece[];
  readonly orders: [Id, Likely][] | null;
  readonly weeks: HandsWeeks[] | null;
  readonly ready: [Id, TreeReady][] | null;
}

/** A plan never changes, so the last one read is kept with its store. */
const known = new WeakMap<Store, Kept>();

interface ComputationRow {
  readonly state: string;
  readonly error: string | null;
}

interface PlanRow {
  readonly id: Id;
  readonly basis: number;
  readonly madeAt: Instant;
}

/** The plan in use and where it stands. */
export async function currentPlan(store: Store): Promise<CurrentPlan> {
  const [plan] = await headOf(store);
  const [[computed], since, kept] = await Promise.all([
    rowsOf<ComputationRow>(store, 'computations', { kind: 'plan' }),
    plan ? changesSince(store, plan.basis) : 0,
    plan ? readKept(store, plan.id) : undefined,
  ]);
  return {
    stand: {
      planId: plan?.id ?? null,
      madeAt: plan?.madeAt ?? null,
      changesSince: since,
      running: computed?.state === 'running',
      failed: computed?.state === 'failed' ? computed.error : null,
      notes: kept?.notes ?? [],
    },
    pieces: kept?.pieces ?? new Map(),
    orders: kept?.orders ?? new Map(),
    weeks: kept?.weeks ?? [],
    ready: kept?.ready ?? new Map(),
  };
}

/** Of the plan in use only what is small: its notes and pieces are kept. */
async function headOf({ models }: Store): Promise<PlanRow[]> {
  const rows = await models.plans.findAll({
    where: { state: 'current' },
    attributes: ['id', 'basis', 'madeAt'],
    order: [['taken', 'DESC']],
    limit: 1,
    raw: true,
  });
  return (rows as unknown as (Omit<PlanRow, 'madeAt'> & { madeAt: Date })[]).map((row) => ({
    ...row,
    madeAt: row.madeAt.toISOString(),
  }));
}

/** Changes since a plan that may move dates. */
const changesSince = ({ models }: Store, basis: number): Promise<number> =>
  models.events.count({ where: { number: { [Op.gt]: basis }, verb: { [Op.notIn]: IDLE_VERBS } } });

async function readKept(store: Store, id: Id): Promise<Kept> {
  const found = known.get(store);
  if (found?.id === id) return found;
  const [row] = await rowsOf<KeptRow>(store, 'plans', { id });
  const kept = {
    id,
    notes: row?.notes ?? [],
    pieces: new Map((row?.pieces ?? []).map((piece) => [piece.pieceId, piece])),
    orders: new Map(row?.orders ?? []),
    weeks: row?.weeks ?? [],
    ready: new Map(row?.ready ?? []),
  };
  known.set(store, kept);
  return kept;
}

interface DatesRow {
  readonly stepId: Id;
  readonly startsAt: Instant;
  readonly endsAt: Instant;
  readonly load_: string | null;
}

/** When steps are planned; those that the plan does not hold are missing. */
export async function plannedDates(store: Store, planId: Id | null, stepIds: readonly Id[]): Promise<Map<Id, Dates>> {
  if (planId === null || stepIds.length === 0) return new Map();
  const rows = await rowsOf<DatesRow>(store, 'plannedSteps', { planId, stepId: stepIds });
  return new Map(rows.map(({ stepId, startsAt, endsAt, load_ }) => [stepId, { startsAt, endsAt, load: load_ }]));
}
