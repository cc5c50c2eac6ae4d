import type { Id, NextStep } from '@kalvet/core';
import { QueryTypes } from 'sequelize';
import type { Store } from '../write/context.ts';

/** What is kept ready of a tree. */
export interface TreeStored {
  readonly next: NextStep | null;
  readonly pieceIds: readonly Id[];
  readonly alloyId: string;
  readonly state: string;
  readonly pourKg: number | null;
}

/** A stored projection's data: the driver hands JSON over parsed or as text. */
export const parsedData = <T>(data: unknown): T => (typeof data === 'string' ? JSON.parse(data) : data) as T;

/** The stored projections of the pieces that are not out. */
export async function storedOpen<T>(store: Store): Promise<Map<Id, T>> {
  const rows = await store.db.query<{ id: Id; data: unknown }>(
    "SELECT r.id, r.data FROM projection r JOIN piece p ON p.id = r.id WHERE p.state NOT IN ('delivered','cancelled')",
    { type: QueryTypes.SELECT },
  );
  return new Map(rows.map(({ id, data }) => [id, parsedData<T>(data)]));
}

/** The stored projections of one carrier, all or of some ids. */
export async function stored<T>(
  store: Store,
  carrier: 'piece' | 'tree' | 'mould',
  ids?: readonly Id[],
): Promise<Map<Id, T>> {
  if (ids?.length === 0) return new Map();
  const rows = await store.db.query<{ id: Id; data: unknown }>(
    `SELECT id, data FROM projection WHERE carrier = :carrier${ids ? ' AND id IN (:ids)' : ''}`,
    { replacements: { carrier, ids: ids ?? [] }, type: QueryTypes.SELECT },
  );
  return new Map(rows.map(({ id, data }) => [id, parsedData<T>(data)]));
}
