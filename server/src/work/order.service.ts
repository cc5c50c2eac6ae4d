import type {
  Client,
  Id,
  Order,
  OrderPiece,
  OrderView,
  OrdersAnswer,
  Piece,
  SaveClient,
  SaveOrder,
  Work,
} from '@kalvet/core';
import { markOf } from '@kalvet/core';
import { changeNumber } from '../live/changes.ts';
import { today } from '../people/clock.ts';
import { settingsOf } from '../people/settings.ts';
import { currentPlan } from '../plan/read-plan.ts';
import { loadRows } from '../shop/load.ts';
import type { Context } from '../write/context.ts';
import { invalid } from '../write/problem.ts';
import type { Server } from '../write/request.ts';
import { daysBetween, isLate } from './floor.service.ts';
import { ordersOf, withOrderDue } from './orders.ts';

/** All orders with their pieces and when they are ready, and what stands in none yet. */
export async function ordersAnswer({ store, now }: Server): Promise<OrdersAnswer> {
  const change = await changeNumber(store);
  const day = today(now(), (await settingsOf(store)).timeZone);
  const plan = await currentPlan(store);
  const works = new Map((await loadRows<Work>(store, 'works', {})).map((work) => [work.id, work]));
  const orders = await ordersOf(store);
  const pieces = withOrderDue(await loadRows<Piece>(store, 'pieces', {}), orders);
  const label = (piece: Piece) => `${works.get(piece.workId)?.title ?? ''} ${markOf(piece)}`;
  const view = (piece: Piece): OrderPiece => {
    const planned = plan.pieces.get(piece.id);
    const overdue = isLate(piece, day) ? daysBetween(piece.dueDate!, day) : 0;
    return {
      pieceId: piece.id,
      workId: piece.workId,
      label: label(piece),
      state: piece.state,
      dueDate: piece.dueDate,
      plannedFinish: piece.state === 'delivered' ? null : (planned?.finishesAt ?? null),
      deliveredAt: piece.deliveredAt,
      lateDays: piece.state === 'delivered' ? 0 : Math.max(overdue, planned?.lateDays ?? 0),
      version: piece.version,
    };
  };
  const clients = await loadRows<Client>(store, 'clients', {});
  return {
    change,
    now: now(),
    today: day,
    plan: plan.stand,
    clients: clients
      .map((client) => ({ ...client, orders: orders.filter(({ clientId }) => clientId === client.id).length }))
      .sort((a, b) => a.name.localeCompare(b.name)),
    orders: orders
      .map((order) => orderView(order, pieces.filter(({ orderId }) => orderId === order.id).map(view)))
      .sort((a, b) => (a.dueDate ?? '9').localeCompare(b.dueDate ?? '9') || a.number - b.number),
    free: pieces
      .filter(({ orderId, state }) => orderId === null && state !== 'delivered' && state !== 'cancelled')
      .map((piece) => ({ pieceId: piece.id, label: label(piece), version: piece.version }))
      .sort((a, b) => a.label.localeCompare(b.label, undefined, { numeric: true })),
  };
}

/** An order is ready when its last piece is. */
function orderView(order: Order & { readonly client: string }, pieces: readonly OrderPiece[]): OrderView {
  const wanted = pieces.filter(({ state }) => state !== 'cancelled' && state !== 'lost');
  const out = (piece: OrderPiece) => piece.deliveredAt ?? piece.plannedFinish;
  const dates = wanted.map(out);
  return {
    ...order,
    pieces: [...pieces].sort((a, b) => (out(a) ?? '9').localeCompare(out(b) ?? '9')),
    readyAt: dates.length > 0 && dates.every((date) => date !== null) ? dates.sort().at(-1)! : null,
    lateDays: wanted.reduce((most, { lateDays }) => Math.max(most, lateDays), 0),
  };
}

/** Enters a client, new or changed. */
export async function saveClient(ctx: Context, { version, ...given }: SaveClient): Promise<{ id: Id }> {
  const same = await ctx.select('SELECT id FROM client WHERE name = ? AND id <> ? FOR UPDATE', [given.name, given.id]);
  if (same.length > 0) throw invalid({ name: 'a client of this name is there already' });
  if (version === 0) await ctx.insert<Client>('clients', [{ ...given, version: 1 }]);
  else await ctx.update('clients', await ctx.claim<Client>('clients', given.id, version, 'client', given), given);
  ctx.concern('client', given.id);
  ctx.event = { verb: 'save client', text: `Client ${given.name} ${version === 0 ? 'entered' : 'changed'}` };
  return { id: given.id };
}

/** Enters an order with all its pieces, new or changed. A piece stands in one order at most. */
export async function saveOrder(ctx: Context, given: SaveOrder): Promise<{ id: Id; number: number }> {
  const { version, pieceIds, ...fields } = given;
  if (!(await ctx.find('clients', given.clientId))) throw invalid({ clientId: 'there is no such client' });
  const before = version === 0 ? undefined : await ctx.claim<Order>('orders', given.id, version, 'order', given);
  const order = before
    ? await ctx.update('orders', before, fields)
    : (await ctx.insert<Order>('orders', [{ ...fields, number: 0, version: 1 }]))[0]!;
  const here = await ctx.select<{ id: Id }>(
    'SELECT id FROM piece WHERE orderId = ? OR id IN (?) ORDER BY id FOR UPDATE',
    [given.id, pieceIds.length > 0 ? pieceIds : ['-']],
  );
  const pieces = await Promise.all(here.map(({ id }) => ctx.find<Piece>('pieces', id)));
  if (pieceIds.some((id) => !here.some((each) => each.id === id)))
    throw invalid({ pieceIds: 'names a piece that is not there' });
  for (const piece of pieces) {
    if (!piece) continue;
    const wanted = pieceIds.includes(piece.id);
    if (wanted && piece.orderId !== null && piece.orderId !== given.id) {
      const [other] = await ctx.select<{ number: number }>('SELECT number FROM client_order WHERE id = ?', [
        piece.orderId,
      ]);
      throw invalid({ pieceIds: `a piece stands in order O-${other?.number ?? '?'} already` });
    }
    if ((piece.orderId === given.id) === wanted) continue;
    await ctx.update('pieces', piece, { orderId: wanted ? given.id : null });
    ctx.concern('piece', piece.id);
  }
  ctx.concern('order', given.id);
  ctx.concern('client', given.clientId);
  ctx.event = {
    verb: 'save order',
    text: `Order O-${order.number} ${given.title}: ${pieceIds.length} ${pieceIds.length === 1 ? 'piece' : 'pieces'}${given.dueDate ? `, due ${given.dueDate}` : ''}`,
  };
  return { id: given.id, number: order.number };
}
