import type { Id } from '../records/common.ts';
import type { Op, Shop, Table } from '../records/shop.ts';
import { applyOps } from '../records/shop.ts';

/** Tables whose records have a running number that people say. */
export const NUMBERED: readonly Table[] = ['works', 'moulds', 'pulls', 'trees', 'loads', 'heats'];

/** What changed in one record, kept with the event so that it can be shown and taken back. */
export interface Changed {
  readonly table: Table;
  readonly id: Id;
  readonly op: 'insert' | 'update' | 'delete';
  readonly before?: Readonly<Record<string, unknown>>;
  readonly after?: Readonly<Record<string, unknown>>;
}

interface Versioned {
  readonly id: Id;
  readonly version: number;
}

/**
 * Carries out changes on a shop in memory as the server does in its tables: running numbers are given, versions rise with
 * each change, a change that changes nothing is none.
 * @param next gives the next running number of a table
 */
export function carryOutInMemory(
  shop: Shop,
  ops: readonly Op[],
  next: (table: Table) => number,
): { readonly shop: Shop; readonly changes: readonly Changed[] } {
  const changes: Changed[] = [];
  const rows = new Map<Table, Map<Id, Versioned>>();
  const rowsOf = (table: Table) => {
    if (!rows.has(table)) rows.set(table, new Map((shop[table] as readonly Versioned[]).map((row) => [row.id, row])));
    return rows.get(table)!;
  };
  const done = ops.map((op): Op => {
    if (op.op === 'insert') {
      const row = NUMBERED.includes(op.table) ? { ...op.row, number: next(op.table) } : op.row;
      rowsOf(op.table).set(row.id, row);
      changes.push({ table: op.table, id: row.id, op: 'insert' });
      return { ...op, row } as Op;
    }
    const before = rowsOf(op.table).get(op.id);
    if (!before) throw new Error(`no ${op.table} ${op.id} to change`);
    if (op.op === 'delete') {
      rowsOf(op.table).delete(op.id);
      changes.push({ table: op.table, id: op.id, op: 'delete' });
      return op;
    }
    const { version: raised, ...patch } = op.patch as Record<string, unknown>;
    const changed = Object.entries(patch).filter(
      ([key, value]) => JSON.stringify(value) !== JSON.stringify((before as unknown as Record<string, unknown>)[key]),
    );
    if (changed.length === 0 && raised === undefined) return { ...op, patch: {} } as Op;
    const after = { ...Object.fromEntries(changed), version: before.version + 1 };
    rowsOf(op.table).set(op.id, { ...before, ...after });
    if (changed.length > 0)
      changes.push({
        table: op.table,
        id: op.id,
        op: 'update',
        before: Object.fromEntries(
          changed.map(([key]) => [key, (before as unknown as Record<string, unknown>)[key] ?? null]),
        ),
        after: Object.fromEntries(changed),
      });
    return { ...op, patch: after } as Op;
  });
  return { shop: applyOps(shop, done), changes };
}
