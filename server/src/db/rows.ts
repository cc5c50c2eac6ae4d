import type { Transaction } from 'sequelize';
import type { Store } from '../write/store.ts';
import type { AnyTable, Row } from './tables.ts';
import { fromRow } from './tables.ts';

/** Conditions on a table's columns, as Sequelize takes them. */
export type Where = Readonly<Record<string | symbol, unknown>>;

/** All records of a table that meet a condition. */
export async function rowsOf<T>(store: Store, table: AnyTable, where: Where, tx?: Transaction): Promise<T[]> {
  const found = await store.models[table].findAll({
    where: where as never,
    raw: true,
    transaction: tx ?? null,
  });
  return (found as unknown as Row[]).map((row) => fromRow<T>(table, row));
}
