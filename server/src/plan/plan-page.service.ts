import type { Id, Piece, PlanAnswer, PlanLoad, PlanRow, Room, Work } from '@kalvet/core';
import { STEP_KINDS, markOf } from '@kalvet/core';
import { QueryTypes } from 'sequelize';
import { asInstant } from '../db/tables.ts';
import { changeNumber } from '../live/changes.ts';
import { today } from '../people/clock.ts';
import { settingsOf } from '../people/settings.ts';
import { loadRows } from '../shop/load.ts';
import type { TreeStored } from '../shop/stored.ts';
import { stored } from '../shop/stored.ts';
import type { Server } from '../write/request.ts';
import type { Store } from '../write/context.ts';
import { ordersOf, withOrderDue } from '../work/orders.ts';
import { currentPlan } from './read-plan.ts';
import { pourDays } from './open-days.ts';

interface StepRow {
  readonly kind: keyof typeof STEP_KINDS;
  readonly pieceId: Id | null;
  readonly treeId: Id | null;
  readonly startsAt: Date | string;
  readonly endsAt: Date | string;
  readonly load_: string | null;
}

/** The plan in use as a drawing shows it: a row a piece with its spans by room, loads and heats, pour days. */
export async function planAnswer({ store, now }: Server): Promise<PlanAnswer> {
  const change = await changeNumber(store);
  const settings = await settingsOf(store);
  const plan = await currentPlan(store);
  const { planId } = plan.stand;
  const works = new Map((await loadRows<Work>(store, 'works', {})).map((work) => [work.id, work]));
  const ids = [...plan.pieces.keys()];
  const found = ids.length > 0 ? await loadRows<Piece>(store, 'pieces', { id: ids }) : [];
  const pieces = withOrderDue(found, await ordersOf(store));
  const spans = await roomSpans(store, planId);
  const day = today(now(), settings.timeZone);
  const rows = pieces
    .filter(({ state }) => state !== 'delivered' && state !== 'cancelled')
    .map((piece): PlanRow => {
      const planned = plan.pieces.get(piece.id);
      return {
        pieceId: piece.id,
        workId: piece.workId,
        title: works.get(piece.workId)?.title ?? '',
        mark: markOf(piece),
        state: piece.state,
        dueDate: piece.dueDate,
        finishesAt: planned?.finishesAt ?? null,
        lateDays: planned?.lateDays ?? 0,
        spans: spans.get(piece.id) ?? [],
      };
    })
    .sort((a, b) => (a.dueDate ?? '9').localeCompare(b.dueDate ?? '9') || a.title.localeCompare(b.title));
  const last = rows.reduce((latest, { finishesAt }) => ((finishesAt ?? '') > latest ? finishesAt! : latest), now());
  return {
    change,
    now: now(),
    today: day,
    plan: plan.stand,
    rows,
    loads: await plannedLoads(store, planId),
    pourDays: await pourDays(store, day, today(last, settings.timeZone)),
  };
}

/** From the first to the last planned step of each piece in each room; a tree's steps count for every piece on it. */
async function roomSpans(store: Store, planId: Id | null): Promise<Map<Id, [Room, string, string][]>> {
  const spans = new Map<Id, [Room, string, string][]>();
  if (planId === null) return spans;
  const rows = await store.db.query<{ pieceId: Id; kind: StepRow['kind']; from_: Date | string; to_: Date | string }>(
    `SELECT pieceId, kind, MIN(startsAt) AS from_, MAX(endsAt) AS to_ FROM (
       SELECT COALESCE(s.pieceId, c.pieceId) AS pieceId, s.kind, p.startsAt, p.endsAt
         FROM planned_step p JOIN step s ON s.id = p.stepId LEFT JOIN cast_ c ON c.id = s.castId
        WHERE p.planId = :planId AND (s.pieceId IS NOT NULL OR s.castId IS NOT NULL)
       UNION ALL
       SELECT c.pieceId, s.kind, p.startsAt, p.endsAt
         FROM planned_step p JOIN step s ON s.id = p.stepId
         JOIN tree_cast m ON m.treeId = s.treeId AND m.until IS NULL JOIN cast_ c ON c.id = m.castId
        WHERE p.planId = :planId AND s.treeId IS NOT NULL) AS every_step GROUP BY pieceId, kind`,
    { replacements: { planId }, type: QueryTypes.SELECT },
  );
  for (const { pieceId, kind, from_, to_ } of rows) {
    const { room } = STEP_KINDS[kind];
    const list = spans.get(pieceId) ?? [];
    const [from, to] = [asInstant(from_), asInstant(to_)];
    const found = list.find(([name]) => name === room);
    if (!found) list.push([room, from, to]);
    else {
      if (from < found[1]) found[1] = from;
      if (to > found[2]) found[2] = to;
    }
    spans.set(pieceId, list);
  }
  for (const list of spans.values()) list.sort((a, b) => a[1].localeCompare(b[1]));
  return spans;
}

/** The loads and heats that the plan makes, the soonest first. */
export async function plannedLoads(store: Store, planId: Id | null): Promise<PlanLoad[]> {
  if (planId === null) return [];
  const rows = await store.db.query<StepRow>(
    `SELECT s.kind, s.treeId, p.startsAt, p.endsAt, p.load_ FROM planned_step p JOIN step s ON s.id = p.stepId
      WHERE p.planId = ? AND p.load_ IS NOT NULL ORDER BY p.startsAt, p.load_`,
    { replacements: [planId], type: QueryTypes.SELECT },
  );
  const trees = await stored<TreeStored>(store, 'tree');
  const loads = new Map<string, StepRow[]>();
  for (const row of rows) loads.set(row.load_!, [...(loads.get(row.load_!) ?? []), row]);
  return [...loads].map(([name, members]) => {
    const heat = members[0]!.kind === 'pour';
    const each = members.map(({ treeId }) => trees.get(treeId ?? ''));
    return {
      name,
      kind: heat ? 'heat' : 'kiln',
      startsAt: asInstant(members[0]!.startsAt),
      endsAt: asInstant(members[0]!.endsAt),
      count: members.length,
      alloyId: heat ? (each[0]?.alloyId ?? null) : null,
      kg: heat ? each.reduce((sum, tree) => sum + (tree?.pourKg ?? 0), 0) : null,
      treeIds: members.flatMap(({ treeId }) => treeId ?? []),
      labels: each.map((tree) => tree?.next?.on ?? 'tree'),
    };
  });
}
