import { dayIn } from '@kalvet/core';
import type {
  Cast,
  HandsWeeks,
  Id,
  Instant,
  Piece,
  PlanAnswer,
  PlanRow,
  PlannedLoad,
  Resource,
  Room,
  StepKindCode,
  TreeCast,
  Work,
} from '@kalvet/core';
import { kindOf, listUnder, markOf } from '@kalvet/core';
import { Op } from 'sequelize';
import { changeNumber } from '../live/changes.ts';
import { settingsOf } from '../people/settings.ts';
import { rowsOf } from '../db/rows.ts';
import type { TreeStored } from '../shop/stored.ts';
import { stored } from '../shop/stored.ts';
import type { Server } from '../http/request.ts';
import type { Store } from '../write/store.ts';
import { ordersOf, withOrderDue } from '../work/orders.ts';
import { openHeats } from '../pour/heat-read.service.ts';
import { askedOfHeats } from '../pour/heat-questions.ts';
import { movesSince } from './moves-since.ts';
import { currentPlan } from './read-plan.ts';
import { pourDays } from './open-days.ts';

/** The plan in use as a drawing shows it: a row a piece with its spans by room, loads and heats, pour days. */
export async function planAnswer({ store, now }: Server): Promise<PlanAnswer> {
  const change = await changeNumber(store);
  const settings = await settingsOf(store);
  const plan = await currentPlan(store);
  const { planId } = plan.stand;
  const works = new Map((await rowsOf<Work>(store, 'works', {})).map((work) => [work.id, work]));
  const ids = [...plan.pieces.keys()];
  const found = ids.length > 0 ? await rowsOf<Piece>(store, 'pieces', { id: ids }) : [];
  const pieces = withOrderDue(found, await ordersOf(store));
  const spans = await roomSpans(store, planId);
  const day = dayIn(now(), settings.timeZone);
  const moves = await movesSince(store, plan, { day, zone: settings.timeZone });
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
        likely: planned?.likely ?? null,
        lateDays: planned?.lateDays ?? 0,
        moved: moves.of.get(piece.id) ?? null,
        spans: spans.get(piece.id) ?? [],
      };
    })
    .sort((a, b) => (a.dueDate ?? '9').localeCompare(b.dueDate ?? '9') || a.title.localeCompare(b.title));
  const { asks } = await askedOfHeats(store, {
    now: now(),
    heats: await openHeats(store),
    trees: await stored<TreeStored>(store, 'tree'),
    ready: plan.ready,
    notes: plan.stand.notes,
  });
  const last = rows.reduce((latest, { finishesAt }) => ((finishesAt ?? '') > latest ? finishesAt! : latest), now());
  return {
    change,
    now: now(),
    today: day,
    movedSince: moves.since,
    plan: plan.stand,
    rows,
    loads: await plannedLoads(store, planId),
    hands: await handsByWeek(store, plan.weeks),
    asks,
    pourDays: await pourDays(store, day, dayIn(last, settings.timeZone)),
  };
}

/** The rooms' hands by their names with the work there is for them, in the order of the settings. */
async function handsByWeek(store: Store, weeks: readonly HandsWeeks[]): Promise<PlanAnswer['hands']> {
  const resources = new Map((await rowsOf<Resource>(store, 'resources', {})).map((each) => [each.id, each]));
  return [...weeks]
    .sort((a, b) => a.resourceId.localeCompare(b.resourceId))
    .flatMap((each) => {
      const resource = resources.get(each.resourceId);
      return resource ? [{ ...each, name: resource.name, room: resource.room, count: resource.count }] : [];
    });
}

/** A planned step with what it is done to. */
interface PlannedRow {
  readonly startsAt: Date;
  readonly endsAt: Date;
  readonly load_: string | null;
  readonly step: {
    readonly kind: StepKindCode;
    readonly pieceId: Id | null;
    readonly castId: Id | null;
    readonly treeId: Id | null;
  };
}

async function plannedRows({ models }: Store, planId: Id, where: object = {}): Promise<PlannedRow[]> {
  const rows = await models.plannedSteps.findAll({
    where: { planId, ...where },
    attributes: ['startsAt', 'endsAt', 'load_'],
    include: [{ association: 'step', attributes: ['kind', 'pieceId', 'castId', 'treeId'], required: true }],
    order: [
      ['startsAt', 'ASC'],
      ['load_', 'ASC'],
    ],
    raw: true,
    nest: true,
  });
  return rows as unknown as PlannedRow[];
}

type Span = [Room, Instant, Instant];

/** From the first to the last planned step of each piece in each room; a tree's steps count for every piece on it. */
async function roomSpans(store: Store, planId: Id | null): Promise<Map<Id, Span[]>> {
  const spans = new Map<Id, Span[]>();
  if (planId === null) return spans;
  const [rows, casts, members] = await Promise.all([
    plannedRows(store, planId),
    rowsOf<Cast>(store, 'casts', {}),
    rowsOf<TreeCast>(store, 'treeCasts', { until: null }),
  ]);
  const pieceOf = new Map(casts.map(({ id, pieceId }) => [id, pieceId]));
  const onTree = new Map<Id, Id[]>();
  for (const { treeId, castId } of members) {
    const pieceId = pieceOf.get(castId);
    if (pieceId) listUnder(onTree, treeId, pieceId);
  }
  for (const { step, startsAt, endsAt } of rows) {
    const { room } = kindOf(step.kind);
    const own = step.pieceId ?? pieceOf.get(step.castId ?? '');
    for (const pieceId of own ? [own] : new Set(onTree.get(step.treeId ?? '') ?? []))
      widen(spans, pieceId, [room, startsAt.toISOString(), endsAt.toISOString()]);
  }
  for (const list of spans.values()) list.sort((a, b) => a[1].localeCompare(b[1]));
  return spans;
}

function widen(spans: Map<Id, Span[]>, pieceId: Id, [room, from, to]: Span): void {
  const found = spans.get(pieceId)?.find(([name]) => name === room);
  if (!found) return listUnder(spans, pieceId, [room, from, to]);
  if (from < found[1]) found[1] = from;
  if (to > found[2]) found[2] = to;
}

/** The loads and heats that the plan makes, the soonest first. */
export async function plannedLoads(store: Store, planId: Id | null): Promise<PlannedLoad[]> {
  if (planId === null) return [];
  const rows = await plannedRows(store, planId, { load_: { [Op.ne]: null } });
  const trees = await stored<TreeStored>(store, 'tree');
  const { kilnPlaces, crucibleUsableKg } = await settingsOf(store);
  const loads = new Map<string, PlannedRow[]>();
  for (const row of rows) listUnder(loads, row.load_!, row);
  return [...loads].map(([name, members]) => {
    const heat = kindOf(members[0]!.step.kind).through === 'heat';
    const each = members.map(({ step }) => trees.get(step.treeId ?? ''));
    const kg = each.reduce((sum, tree) => sum + (tree?.pourKg ?? 0), 0);
    const holds = heat ? crucibleUsableKg : kilnPlaces;
    return {
      name,
      kind: heat ? 'heat' : 'kiln',
      startsAt: members[0]!.startsAt.toISOString(),
      endsAt: members[0]!.endsAt.toISOString(),
      count: members.length,
      alloyId: heat ? (each[0]?.alloyId ?? null) : null,
      kg: heat ? kg : null,
      treeIds: members.flatMap(({ step }) => step.treeId ?? []),
      labels: each.map((tree) => tree?.next?.on ?? 'tree'),
      full: (heat ? kg : members.length) / holds,
      holds,
    };
  });
}
