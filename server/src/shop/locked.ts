import type { Id, Op, Shop } from '@kalvet/core';
import { applyOps, indexShop } from '@kalvet/core';
import type { ShopIndex } from '@kalvet/core';
import type { TableName } from '../db/tables.ts';
import type { Context } from '../write/context.ts';
import { loadShop, sharing } from './load.ts';

/**
 * Takes the works for this write, with those that share a tree with them, and reads what hangs on them. Whoever wants to
 * change the same works waits here; so what is judged is what is changed.
 */
export async function lockShop(
  ctx: Context,
  workIds: readonly Id[],
  alsoPieces: readonly Id[] = [],
): Promise<ShopIndex> {
  const { store, tx } = ctx;
  let wanted = [...workIds];
  for (;;) {
    // In the order of their ids, so that two writers never wait for each other.
    await ctx.select('SELECT id FROM work WHERE id IN (?) ORDER BY id FOR UPDATE', [wanted]);
    const now = await sharing(store, workIds, tx);
    const more = now.filter((id) => !wanted.includes(id));
    if (more.length === 0) break;
    wanted = [...wanted, ...more];
  }
  for (const id of wanted) ctx.touchedWorks.add(id);
  // Works that share a tree with one of the works taken are read too, as what they hold back can be decided by them.
  const read = wanted.length === workIds.length ? wanted : await sharing(store, wanted, tx);
  return indexShop(await loadShop(store, { workIds: read, alsoPieces, tx }));
}

/** The works that a carrier belongs to. */
export async function worksOf(ctx: Context, carrier: string, id: Id): Promise<Id[]> {
  const sql: Record<string, string> = {
    piece: 'SELECT workId FROM piece WHERE id = ?',
    mould: 'SELECT workId FROM mould WHERE id = ?',
    cast: 'SELECT workId FROM piece p JOIN cast_ c ON c.pieceId = p.id WHERE c.id = ?',
    tree: 'SELECT DISTINCT workId FROM tree_cast m JOIN cast_ c ON c.id = m.castId JOIN piece p ON p.id = c.pieceId WHERE m.treeId = ?',
  };
  const found = await ctx.select<{ workId: Id }>(sql[carrier]!, [id]);
  return found.map(({ workId }) => workId);
}

/** Carries out in the database what core decided, and gives the shop as it is then. Running numbers are given here. */
export async function carryOut(ctx: Context, shop: Shop, ops: readonly Op[]): Promise<Shop> {
  let now = shop;
  for (let i = 0; i < ops.length;) {
    const op = ops[i]!;
    if (op.op === 'insert') {
      let end = i + 1;
      while (ops[end]?.op === 'insert' && ops[end]!.table === op.table) end++;
      const records = ops.slice(i, end).map((each) => (each as Extract<Op, { op: 'insert' }>).row);
      const kept = await insertRecords(ctx, op.table, records);
      now = applyOps(
        now,
        kept.map((row) => ({ op: 'insert', table: op.table, row }) as Op),
      );
      i = end;
    } else {
      const before = (now[op.table] as readonly { id: Id; version: number }[]).find((row) => row.id === op.id);
      if (!before) throw new Error(`no ${op.table} ${op.id} to change`);
      const after = await ctx.update(op.table as TableName, before, op.patch as never);
      now = applyOps(now, [{ op: 'update', table: op.table, id: op.id, patch: after } as Op]);
      i++;
    }
  }
  ctx.shop = now;
  return now;
}

async function insertRecords(ctx: Context, table: Op['table'], records: readonly { id: Id }[]): Promise<{ id: Id }[]> {
  const kept = await ctx.insert(table as TableName, records);
  const pairs = {
    moulds: ['mould_section', 'mouldId', 'sectionId', 'sectionIds'],
    pulls: ['pull_cast', 'pullId', 'castId', 'castIds'],
  }[table as 'moulds' | 'pulls'];
  if (!pairs) return kept;
  const [name, one, other, list] = pairs as [string, string, string, string];
  const values = kept.flatMap((record) =>
    ((record as unknown as Record<string, Id[]>)[list] ?? []).map((id) => [record.id, id]),
  );
  if (values.length > 0)
    await ctx.store.db.query(`INSERT INTO ${name} (${one}, ${other}) VALUES ${values.map(() => '(?,?)').join(',')}`, {
      replacements: values.flat(),
      transaction: ctx.tx,
    });
  return kept;
}
