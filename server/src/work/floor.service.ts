import { SIGHTS, dayIn, questions } from '@kalvet/core';
import type {
  Day,
  FloorAnswer,
  FloorPiece,
  FloorWork,
  Id,
  Piece,
  PieceProjection,
  PlannedPiece,
  RailAnswer,
  Section,
  TreeLine,
  Work,
  ShopSettings,
  Sight,
} from '@kalvet/core';
import {
  PATTERN_WAX,
  alloyOf,
  castFromWax,
  factorKey,
  joined,
  lateness,
  markOf,
  plannedWax,
  railCounts,
} from '@kalvet/core';
import { Op } from 'sequelize';
import { changeNumber } from '../live/changes.ts';
import { settingsOf } from '../people/settings.ts';
import { currentPlan } from '../plan/read-plan.ts';
import { heatWays, treeLines } from '../pour/heat-questions.ts';
import { openHeats, heatLine } from '../pour/heat-read.service.ts';
import { GONE } from '../shop/load.ts';
import { rowsOf } from '../db/rows.ts';
import type { MouldStored, TreeStored } from '../shop/stored.ts';
import { shopAround } from '../shop/shop-climate.ts';
import { stored, storedOpen } from '../shop/stored.ts';
import { newId } from '../write/new-id.ts';
import { ordersOf, withOrderDue } from './orders.ts';
import type { Server } from '../http/request.ts';

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
  priority: piece.priority,
  ...lateness(piece, now, planned?.lateDays),
  plannedFinish: planned?.finishesAt ?? null,
  likely: planned?.likely ?? null,
  holdReason: piece.holdReason,
  holdUntil: piece.holdUntil,
  orderId: piece.orderId,
  version: piece.version,
});

/** Every piece that is not out, begun or not, as the Floor shows it, with what it was judged by. */
async function piecesOnFloor({ store, now }: Server) {
  // None of these waits for another's answer.
  const [settings, orders, pieces, data, plan] = await Promise.all([
    settingsOf(store),
    ordersOf(store),
    rowsOf<Piece>(store, 'pieces', { state: { [Op.notIn]: GONE } }),
    storedOpen<PieceProjection>(store),
    currentPlan(store),
  ]);
  const day = dayIn(now(), settings.timeZone);
  const onFloor = withOrderDue(pieces, orders).flatMap((piece) => {
    const projection = data.get(piece.id);
    return projection ? [floorPiece(piece, projection, day, plan.pieces.get(piece.id))] : [];
  });
  return { settings, orders, plan, day, onFloor };
}

/** What stands in each room, for the rail over every page. */
export async function rail(server: Server): Promise<RailAnswer> {
  const change = await changeNumber(server.store);
  const { onFloor } = await piecesOnFloor(server);
  const now = server.now();
  return {
    change,
    now,
    rooms: railCounts(
      onFloor.filter(({ begun }) => begun),
      now,
    ),
  };
}

/** The whole shop in one picture: works, where each piece stands, what wants a decision, what comes next. */
export async function floor(server: Server, sights: readonly Sight[] = SIGHTS): Promise<FloorAnswer> {
  const { store, now } = server;
  const change = await changeNumber(store);
  const [{ settings, orders, plan, day, onFloor }, works, sections, out, moulds, trees, heats] = await Promise.all([
    piecesOnFloor(server),
    rowsOf<Work>(store, 'works', {}),
    rowsOf<Section>(store, 'sections', {}),
    store.models.pieces.count({ where: { state: 'delivered' }, group: ['workId'] }),
    stored<MouldStored>(store, 'mould'),
    stored<TreeStored>(store, 'tree'),
    openHeats(store),
  ]);
  const { tanks = [] } = await shopAround(store);
  const delivered = new Map(out.map(({ workId, count }) => [String(workId), Number(count)]));
  const lines = treeLines(trees);
  const titles = new Map(works.map(({ id, title }) => [id, title]));
  const ways = await heatWays(store, { now: now(), heats, trees, ready: plan.ready });
  const soonest = (a: TreeLine, b: TreeLine) => (a.readyAt ?? '9').localeCompare(b.readyAt ?? '9');
  return {
    change,
    now: now(),
    today: day,
    plan: plan.stand,
    // Whose an order is, is for those who keep the books.
    orders: sights.includes('clients')
      ? orders.map(({ id, number, title, clientId, client }) => ({ id, number, title, clientId, client }))
      : [],
    works: works.map((work) => floorWork(work, sections, onFloor, delivered, settings)).sort(byDue),
    mouldsInUse: [...moulds.values()].filter(({ inUse }) => inUse).length,
    questions: questions({
      now: now(),
      pieces: onFloor.map((piece) => ({ ...piece, label: `${titles.get(piece.workId) ?? ''} ${markOf(piece)}` })),
      moulds: [...moulds].map(([id, mould]) => ({ id, ...mould })),
      lines,
      heats,
      notes: plan.stand.notes,
      tanks,
      ...ways,
      newId,
    }),
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
  { castFactors }: Pick<ShopSettings, 'castFactors'>,
): FloorWork {
  const own = castFactors[factorKey(work.alloyId, PATTERN_WAX)];
  const sections = all.filter((section) => section.workId === work.id);
  const pieces = onFloor.filter((piece) => piece.workId === work.id);
  const begun = pieces.filter((piece) => piece.begun);
  const planned = sections
    .map((section) => plannedWax(section))
    .map((wax) => wax && castFromWax(wax.value, alloyOf(work.alloyId), undefined, own));
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
            inWords: joined(
              known.map(({ inWords }) => inWords),
              ' · ',
            ),
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
