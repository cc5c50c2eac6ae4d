import { dayIn } from '@kalvet/core';
import type {
  Client,
  FreePiece,
  Id,
  Likely,
  Order,
  OrderPiece,
  OrderView,
  OrdersAnswer,
  Piece,
  PieceProjection,
  SaveClient,
  SaveOrder,
  Work,
} from '@kalvet/core';
import { counted, lateness, markOf, onDay, say } from '@kalvet/core';
import { changeNumber } from '../live/changes.ts';
import { settingsOf } from '../people/settings.ts';
import { currentPlan } from '../plan/read-plan.ts';
import { Op } from 'sequelize';
import { rowsOf } from '../db/rows.ts';
import { storedOpen } from '../shop/stored.ts';
import type { Context } from '../write/context.ts';
import { invalid } from '../write/problem.ts';
import type { Server } from '../http/request.ts';
import { ordersOf, withOrderDue } from './orders.ts';

/** All orders with their pieces and when they are ready, and what stands in none yet. */
export async function ordersAnswer({ store, now }: Server): Promise<OrdersAnswer> {
  const change = await changeNumber(store);
  const day = dayIn(now(), (await settingsOf(store)).timeZone);
  const plan = await currentPlan(store);
  const works = new Map((await rowsOf<Work>(store, 'works', {})).map((work) => [work.id, work]));
  const orders = await ordersOf(store);
  const pieces = withOrderDue(await rowsOf<Piece>(store, 'pieces', {}), orders);
  const label = (piece: Piece) => `${works.get(piece.workId)?.title ?? ''} ${markOf(piece)}`;
  const spots = await storedOpen<PieceProjection>(store);
  const free = (piece: Piece): FreePiece => {
    const spot = spots.get(piece.id);
    return {
      pieceId: piece.id,
      label: label(piece),
      artist: works.get(piece.workId)?.artist ?? '',
      room: spot?.begun ? spot.behind : null,
      plannedFinish: piece.state === 'delivered' ? null : (plan.pieces.get(piece.id)?.finishesAt ?? null),
    };
  };
  const view = (piece: Piece): OrderPiece => {
    const planned = plan.pieces.get(piece.id);
    return {
      ...free(piece),
      workId: piece.workId,
      state: piece.state,
      dueDate: piece.dueDate,
      deliveredAt: piece.deliveredAt,
      ...lateness(piece, day, planned?.lateDays),
      series: piece.series,
      number: piece.number,
      behind: spots.get(piece.id)?.behind ?? (piece.state === 'delivered' ? 'out' : 'wax'),
      sections: (spots.get(piece.id)?.sections ?? []).map(({ room, recast }) => ({ room, recast })),
      version: piece.version,
    };
  };
  const clients = await rowsOf<Client>(store, 'clients', {});
  return {
    change,
    now: now(),
    today: day,
    plan: plan.stand,
    clients: clients
      .map((client) => ({ ...client, orders: orders.filter(({ clientId }) => clientId === client.id).length }))
      .sort((a, b) => a.name.localeCompare(b.name)),
    orders: orders
      .map((order) =>
        orderView(order, pieces.filter(({ orderId }) => orderId === order.id).map(view), plan.orders.get(order.id)),
      )
      .sort((a, b) => (a.dueDate ?? '9').localeCompare(b.dueDate ?? '9') || a.number - b.number),
    free: pieces
      .filter(({ orderId, state }) => orderId === null && state !== 'delivered' && state !== 'cancelled')
      .map(free)
      .sort((a, b) => a.label.localeCompare(b.label, undefined, { numeric: true })),
  };
}

/** An order is ready when its last piece is. */
function orderView(
  order: Order & { readonly client: string },
  pieces: readonly OrderPiece[],
  likely: Likely | undefined,
): OrderView {
  const wanted = pieces.filter(({ state }) => state !== 'cancelled' && state !== 'lost');
  const out = (piece: OrderPiece) => piece.deliveredAt ?? piece.plannedFinish;
  const dates = wanted.map(out);
  return {
    ...order,
    pieces: [...pieces].sort((a, b) => (out(a) ?? '9').localeCompare(out(b) ?? '9')),
    readyAt: dates.length > 0 && dates.every((date) => date !== null) ? dates.sort().at(-1)! : null,
    likely: wanted.some(({ deliveredAt }) => deliveredAt === null) ? (likely ?? null) : null,
    lateDays: wanted.reduce((most, { lateDays }) => Math.max(most, lateDays), 0),
  };
}

/** Enters a client, new or changed. */
export async function saveClient(ctx: Context, { version, ...given }: SaveClient): Promise<{ id: Id }> {
  ctx.may('save client');
  const same = await ctx.rows('clients', { name: given.name, id: { [Op.ne]: given.id } }, { lock: true });
  if (same.length > 0) throw invalid({ name: 'a client of this name is there already' });
  if (version === 0 && (await ctx.find('clients', given.id)))
    throw invalid({ id: 'this client is entered already; open the form again' });
  if (version === 0) await ctx.insert<Client>('clients', [{ ...given, version: 1 }]);
  else await ctx.update('clients', await ctx.claim<Client>('clients', given.id, version, 'client', given), given);
  ctx.concern('client', given.id);
  ctx.event = { verb: 'save client', text: `Client ${given.name} ${version === 0 ? 'entered' : 'changed'}` };
  return { id: given.id };
}

/** Enters an order with all its pieces, new or changed. A piece stands in one order at most. */
export async function saveOrder(ctx: Context, given: SaveOrder): Promise<{ id: Id; number: number }> {
  ctx.may('save order');
  const { version, pieceIds, ...fields } = given;
  if (!(await ctx.find('clients', given.clientId))) throw invalid({ clientId: 'there is no such client' });
  if (version === 0 && (await ctx.find('orders', given.id)))
    throw invalid({ id: 'this order is entered already; open the form again' });
  const before = version === 0 ? undefined : await ctx.claim<Order>('orders', given.id, version, 'order', given);
  const order = before
    ? await ctx.update('orders', before, fields)
    : (await ctx.insert<Order>('orders', [{ ...fields, number: 0, version: 1 }]))[0]!;
  const pieces = await ctx.rows<Piece>(
    'pieces',
    { [Op.or]: [{ orderId: given.id }, { id: pieceIds }] },
    { lock: true, order: [['id', 'ASC']] },
  );
  if (pieceIds.some((id) => !pieces.some((each) => each.id === id)))
    throw invalid({ pieceIds: 'names a piece that is not there' });
  for (const piece of pieces) {
    const wanted = pieceIds.includes(piece.id);
    if (wanted && piece.orderId !== null && piece.orderId !== given.id) {
      const other = await ctx.find<Order>('orders', piece.orderId);
      throw invalid({ pieceIds: `a piece stands in order O-${other?.number ?? '?'} already` });
    }
    if ((piece.orderId === given.id) === wanted) continue;
    await ctx.update('pieces', piece, { orderId: wanted ? given.id : null });
    ctx.concern('piece', piece.id);
  }
  ctx.concern('order', given.id);
  ctx.concern('client', given.clientId);
  const what = `Order O-${order.number} ${given.title}: ${counted(pieceIds.length, 'piece')}`;
  ctx.event = {
    verb: 'save order',
    text: given.dueDate ? say`${what}, due ${onDay(given.dueDate)}` : what,
  };
  return { id: given.id, number: order.number };
}
