import type { Client, Id, Order, Piece } from '@kalvet/core';
import { rowsOf } from '../db/rows.ts';
import type { Store } from '../write/store.ts';

export type OrderWithClient = Order & { readonly client: string };

/** Every order with its client's name. */
export async function ordersOf(store: Store): Promise<OrderWithClient[]> {
  const orders = await rowsOf<Order>(store, 'orders', {});
  if (orders.length === 0) return [];
  const clients = new Map((await rowsOf<Client>(store, 'clients', {})).map(({ id, name }) => [id, name]));
  return orders.map((order) => ({ ...order, client: clients.get(order.clientId) ?? '' }));
}

/** Pieces with the date they are due: their own, else their order's. */
export function withOrderDue<T extends Pick<Piece, 'dueDate' | 'orderId'>>(
  pieces: readonly T[],
  orders: readonly Pick<Order, 'id' | 'dueDate'>[],
): T[] {
  const due = new Map<Id, string | null>(orders.map(({ id, dueDate }) => [id, dueDate]));
  return pieces.map((piece) =>
    piece.dueDate === null && piece.orderId !== null ? { ...piece, dueDate: due.get(piece.orderId) ?? null } : piece,
  );
}
