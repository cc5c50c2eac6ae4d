import type { Carrier, Id, Op, Shop, ShopIndex, Table } from '@kalvet/core';
import { applyOps, indexShop } from '@kalvet/core';
import type { TableName } from '../db/tables.ts';
import type { Context } from '../write/context.ts';
import type { Scope } from './load.ts';
import { loadShop, sharing } from './load.ts';
import { notFound } from '../write/problem.ts';
import { worksOf } from './works-of.ts';

/**
 * Takes the works for this write, with those that share a tree with them, and reads what hangs on them. Whoever wants to
 * change the same works waits here; so what is judged is what is changed.
 */
export async function lockShop(
  ctx: Context,
  workIds: readonly Id[],
  also: Pick<Scope, 'alsoPieces' | 'heatIds' | 'loadIds'> = {},
): Promise<ShopIndex> {
  const { store, tx } = ctx;
  let wanted = [...workIds];
  while (wanted.length > 0) {
    // In the order of their ids, so that two writers never wait for each other.
    await store.models.works.findAll({
      where: { id: wanted },
      attributes: ['id'],
      order: [['id', 'ASC']],
      raw: true,
      lock: true,
      transaction: tx,
    });
    const now = await sharing(store, workIds, tx);
    const more = now.filter((id) => !wanted.includes(id));
    if (more.length === 0) break;
    wanted = [...wanted, ...more];
  }
  for (const id of wanted) ctx.touchedWorks.add(id);
  // From here on the settings stay as they are, for what is judged and for what is kept ready.
  await ctx.settings();
  // Works that share a tree with one of the works taken are read too, as what they hold back can be decided by them.
  const read = wanted.length === workIds.length ? wanted : await sharing(store, wanted, tx);
  return indexShop(await loadShop(store, { workIds: read, ...also, tx }));
}

/**
 * One piece, its work taken for this write, for what changes nothing but its own row: of a work of hundreds of pieces nothing
 * else is read, and nothing that is kept ready is worked out anew.
 */
export async function lockPiece(ctx: Context, id: Id): Promise<ShopIndex> {
  const { store, tx } = ctx;
  const [workId] = await worksOf(store, 'piece', id, tx);
  if (!workId) throw notFound('piece');
  await store.models.works.findAll({
    where: { id: workId },
    attributes: ['id'],
    raw: true,
    lock: true,
    transaction: tx,
  });
  await ctx.settings();
  return indexShop(await loadShop(store, { workIds: [], pieceIds: [id], tx }));
}

/** The works of several carriers, taken for this write. */
export async function lockCarriers(
  ctx: Context,
  carriers: readonly (readonly [Carrier, Id])[],
  also: Parameters<typeof lockShop>[2] = {},
): Promise<ShopIndex> {
  const works = new Set<Id>();
  for (const [carrier, id] of carriers)
    for (const workId of await worksOf(ctx.store, carrier, id, ctx.tx)) works.add(workId);
  return lockShop(ctx, [...works], also);
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
      continue;
    }
    if (op.op === 'delete') {
      let end = i + 1;
      while (ops[end]?.op === 'delete' && ops[end]!.table === op.table) end++;
      const gone = ops.slice(i, end) as Extract<Op, { op: 'delete' }>[];
      await removeRecords(
        ctx,
        op.table,
        gone.map(({ id }) => id),
      );
      now = applyOps(now, gone);
      i = end;
      continue;
    }
    i++;
    const before = (now[op.table] as readonly { id: Id; version: number }[]).find((row) => row.id === op.id);
    if (!before) throw new Error(`no ${op.table} ${op.id} to change`);
    // The version is raised by whoever writes it; that core says it too keeps it rising where only members changed.
    const { version: raised, ...patch } = op.patch as { version?: number };
    const after = await ctx.update(op.table as TableName, before, patch as never);
    const last = raised !== undefined && after === before ? await ctx.touch(op.table as TableName, before) : after;
    now = applyOps(now, [{ op: 'update', table: op.table, id: op.id, patch: last } as Op]);
  }
  ctx.shop = now;
  return now;
}

/** Which records name others in a list: kept in a table of pairs. */
const PAIRS: Partial<Record<Table, readonly ['mouldSections' | 'pullCasts', string, string, string]>> = {
  moulds: ['mouldSections', 'mouldId', 'sectionId', 'sectionIds'],
  pulls: ['pullCasts', 'pullId', 'castId', 'castIds'],
};

async function removeRecords(ctx: Context, table: Table, ids: readonly Id[]): Promise<void> {
  const pairs = PAIRS[table];
  if (pairs) await ctx.store.models[pairs[0]].destroy({ where: { [pairs[1]]: ids }, transaction: ctx.tx });
  await ctx.remove(table as TableName, ids);
}

async function insertRecords(ctx: Context, table: Table, records: readonly { id: Id }[]): Promise<{ id: Id }[]> {
  const kept = await ctx.insert(table as TableName, records);
  const pairs = PAIRS[table];
  if (!pairs) return kept;
  const [name, one, other, list] = pairs;
  const values = kept.flatMap((record) =>
    ((record as unknown as Record<string, Id[]>)[list] ?? []).map((id) => ({ [one]: record.id, [other]: id })),
  );
  await ctx.store.models[name].bulkCreate(values, { transaction: ctx.tx });
  return kept;
}
