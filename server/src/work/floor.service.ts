import type {
  Day,
  FloorAnswer,
  FloorPiece,
  FloorWork,
  Id,
  MouldCount,
  NextStep,
  Piece,
  PieceProjection,
  PlannedPiece,
  Section,
  TreeLine,
  Work,
} from '@kalvet/core';
import { alloyOf, castFromWax, markOf, plannedWax } from '@kalvet/core';
import { Op, QueryTypes } from 'sequelize';
import { changeNumber } from '../live/changes.ts';
import { today } from '../people/clock.ts';
import { settingsOf } from '../people/settings.ts';
import { currentPlan } from '../plan/read-plan.ts';
import { openHeats, heatLine } from '../pour/heat-read.service.ts';
import { loadRows } from '../shop/load.ts';
import type { TreeStored } from '../shop/stored.ts';
import { stored, storedOpen } from '../shop/stored.ts';
import { ordersOf, withOrderDue } from './orders.ts';
import type { Server } from '../write/request.ts';

export interface MouldStored {
  readonly inUse: boolean;
  readonly next: NextStep | null;
  readonly count: MouldCount;
  readonly decisions: readonly { readonly text: string; readonly urgent: boolean }[];
  readonly pieceId: Id | null;
}

/** A piece is late when its due date has passed and it is still here. */
export const isLate = (piece: Pick<Piece, 'dueDate' | 'state'>, now: Day): boolean =>
  piece.dueDate !== null && piece.dueDate < now && piece.state !== 'delivered' && piece.state !== 'cancelled';

export const floorPiece = (
  piece: Piece,
  projection: PieceProjection,
  now: Day,
  planned: PlannedPiece | undefined,
): FloorPiece => ({
  ...projection,
  id: piece.id,
  workId: piece.workId,
  series: piece.series,
  number: piece.number,
  of: piece.of,
  state: piece.state,
  dueDate: piece.dueDate,
  late: isLate(piece, now) || (planned?.lateDays ?? 0) > 0,
  lateDays: Math.max(isLate(piece, now) ? daysBetween(piece.dueDate!, now) : 0, planned?.lateDays ?? 0),
  plannedFinish: planned?.finishesAt ?? null,
  holdReason: piece.holdReason,
  holdUntil: piece.holdUntil,
  orderId: piece.orderId,
  version: piece.version,
});

export const daysBetween = (from: Day, to: Day): number =>
  Math.round((Date.parse(`${to}T00:00:00Z`) - Date.parse(`${from}T00:00:00Z`)) / 86_400_000);

/** The whole shop in one picture: works, where each piece stands, what wants a decision, what comes next. */
export async function floor({ store, now }: Server): Promise<FloorAnswer> {
  const change = await changeNumber(store);
  // None of these waits for another's answer.
  const [settings, works, sections, orders, pieces, out, pieceData, moulds, trees, plan, heats] = await Promise.all([
    settingsOf(store),
    loadRows<Work>(store, 'works', {}),
    loadRows<Section>(store, 'sections', {}),
    ordersOf(store),
    loadRows<Piece>(store, 'pieces', { state: { [Op.notIn]: ['delivered', 'cancelled'] } }),
    store.db.query<{ workId: Id; count: number }>(
      "SELECT workId, COUNT(*) AS count FROM piece WHERE state = 'delivered' GROUP BY workId",
      { type: QueryTypes.SELECT },
    ),
    storedOpen<PieceProjection>(store),
    stored<MouldStored>(store, 'mould'),
    stored<TreeStored>(store, 'tree'),
    currentPlan(store),
    openHeats(store),
  ]);
  const day = today(now(), settings.timeZone);
  const open = withOrderDue(pieces, orders);
  const delivered = new Map(out.map(({ workId, count }) => [workId, Number(count)]));
  const onFloor = open.flatMap((piece) => {
    const data = pieceData.get(piece.id);
    return data ? [floorPiece(piece, data, day, plan.pieces.get(piece.id))] : [];
  });
  const lines = [...trees.values()].flatMap((tree): TreeLine[] =>
    tree.next && tree.pieceIds.length > 0
      ? [{ ...tree.next, pieceIds: tree.pieceIds, alloyId: tree.alloyId, pourKg: tree.pourKg }]
      : [],
  );
  const soonest = (a: TreeLine, b: TreeLine) => (a.readyAt ?? '9').localeCompare(b.readyAt ?? '9');
  return {
    change,
    now: now(),
    today: day,
    plan: plan.stand,
    orders: orders.map(({ id, number, title, clientId, client }) => ({ id, number, title, clientId, client })),
    works: works.map((work) => floorWork(work, sections, onFloor, delivered)).sort(byDue),
    mouldsInUse: [...moulds.values()].filter(({ inUse }) => inUse).length,
    decisions: [
      ...onFloor.flatMap((piece) => piece.decisions.map((decision) => ({ ...decision, pieceId: piece.id }))),
      ...[...moulds.values()].flatMap((mould) =>
        mould.decisions.map((decision) => ({ ...decision, pieceId: mould.pieceId })),
      ),
    ].sort((a, b) => Number(b.urgent) - Number(a.urgent)),
    dips: lines.filter(({ room }) => room === 'shell').sort(soonest),
    fire: lines.filter(({ room }) => room === 'burnout').sort(soonest),
    pour: lines.filter(({ room }) => room === 'pour').sort(soonest),
    heats: heats.map(heatLine),
  };
}

/** Works with the nearest due date first; those without one last, by number. */
const byDue = (a: FloorWork, b: FloorWork) =>
  (a.nextDue ?? '9').localeCompare(b.nextDue ?? '9') || a.title.localeCompare(b.title);

function floorWork(
  work: Work,
  all: readonly Section[],
  onFloor: readonly FloorPiece[],
  delivered: ReadonlyMap<Id, number>,
): FloorWork {
  const sections = all.filter((section) => section.workId === work.id);
  const pieces = onFloor.filter((piece) => piece.workId === work.id);
  const begun = pieces.filter((piece) => piece.begun);
  const planned = sections
    .map((section) => plannedWax(section))
    .map((wax) => wax && castFromWax(wax.value, alloyOf(work.alloyId)));
  const known = planned.filter((figure) => figure !== undefined);
  const dues = pieces.flatMap(({ dueDate }) => dueDate ?? []).sort();
  return {
    id: work.id,
    code: work.code,
    title: work.title,
    artist: work.artist,
    editionSize: work.editionSize,
    artistProofs: work.artistProofs,
    sectionCount: sections.length,
    alloyId: work.alloyId,
    method: work.method,
    glyph: work.glyph,
    plannedKg:
      known.length === sections.length && known.length > 0
        ? {
            value: known.reduce((sum, { value }) => sum + value, 0),
            unit: 'kg',
            source: 'estimated',
            inWords: known.map(({ inWords }) => inWords).join(' · '),
            inputs: {},
          }
        : null,
    notBegun: pieces
      .filter((piece) => !piece.begun)
      .sort((a, b) => a.series.localeCompare(b.series) * -1 || a.number - b.number)
      .map((piece) => ({ id: piece.id, mark: markOf(piece) })),
    delivered: delivered.get(work.id) ?? 0,
    nextDue: dues[0] ?? null,
    pieces: begun,
  };
}
