import type { Id, Projection } from '@kalvet/core';
import { isOver, projections } from '@kalvet/core';
import type { Transaction } from 'sequelize';
import { settingsOf } from '../people/settings.ts';
import type { Context } from '../write/context.ts';
import type { Store } from '../write/store.ts';
import { loadShop, loadWholeShop, sharing } from './load.ts';
import { rowsOf } from '../db/rows.ts';
import { climateChanged } from './shop-climate.ts';

/** Whose records have a projection each. */
const PROJECTED: ReadonlySet<string> = new Set(['pieces', 'trees', 'moulds']);

/** What the shell room's air and tanks, and the kiln's hours, are worked out from. */
const AROUND: ReadonlySet<string> = new Set([
  'dryingPlaces',
  'drynessReadings',
  'tanks',
  'tankChecks',
  'tankDecisions',
  'profiles',
]);

/** Rows that are kept in one statement. */
const AT_ONCE = 200;

async function keep(store: Store, rows: readonly Projection[], tx: Transaction): Promise<void> {
  for (let start = 0; start < rows.length; start += AT_ONCE)
    await store.models.projections.bulkCreate(rows.slice(start, start + AT_ONCE) as never[], {
      updateOnDuplicate: ['carrier', 'workId', 'room', 'readyAt', 'tooOldAt', 'data', 'beside'],
      transaction: tx,
    });
}

/** Keeps anew the projections of what this write touched; part of its transaction. */
export async function projectTouched(ctx: Context): Promise<void> {
  // The air, how a tank stands or a profile is other than it was: also where a record of it was taken back.
  if (ctx.changes.some(({ table }) => AROUND.has(table))) await climateChanged(ctx.store, ctx.tx);
  if (ctx.touchedWorks.size === 0) return;
  const workIds = [...ctx.touchedWorks];
  const { store, tx } = ctx;
  // Taken before the records are read: who changes settings waits, or is waited for.
  const settings = await ctx.settings();
  const shop =
    ctx.shop ??
    (await loadShop(store, {
      workIds: await sharing(store, workIds, tx),
      alsoPieces: [...ctx.touchedPieces],
      tx,
    }));
  // Trees that this write ended have no projection any more, nor has what it took away.
  const changed = new Set(ctx.changes.filter(({ table }) => table === 'trees').map(({ id }) => id));
  const gone = [
    ...shop.trees.filter((tree) => changed.has(tree.id) && isOver(tree)).map(({ id }) => id),
    ...ctx.changes.flatMap(({ op, table, id }) => (op === 'delete' && PROJECTED.has(table) ? [id] : [])),
  ];
  if (gone.length > 0) await store.models.projections.destroy({ where: { id: gone }, transaction: tx });
  await keep(store, projections(shop, ctx.touchedWorks, settings), tx);
}

interface Compared {
  readonly stored: Map<Id, string>;
  readonly anew: Map<Id, string>;
}

async function compare(store: Store, tx?: Transaction): Promise<Compared & { readonly rows: Projection[] }> {
  const stored = await rowsOf<{ id: Id; data: unknown; beside: unknown }>(store, 'projections', {}, tx);
  const shop = await loadWholeShop(store, tx);
  const rows = projections(shop, new Set(shop.works.map(({ id }) => id)), await settingsOf(store, tx));
  const texts = (of: readonly { id: Id; data: unknown; beside: unknown }[]) =>
    new Map(of.map(({ id, data, beside }) => [id, JSON.stringify([data, beside])]));
  return { stored: texts(stored), anew: texts(rows), rows };
}

/** The stored projections and those worked out from nothing, for the test that compares them. */
export const compareProjections = (store: Store): Promise<Compared> => compare(store);

/**
 * Mends what is kept ready where it is not what the records say: after a program of another version, or a hand in the
 * database. Runs at start. Gives how many were mended.
 */
export async function mendProjections(store: Store): Promise<number> {
  const wrong = ({ stored, anew }: Compared) => [...anew].filter(([id, data]) => stored.get(id) !== data);
  if (wrong(await compare(store)).length === 0) return 0;
  return store.db.transaction(async (tx) => {
    // Nobody writes meanwhile: every write holds the settings as they are.
    await store.models.counters.findByPk('settings', { raw: true, lock: true, transaction: tx });
    const now = await compare(store, tx);
    const ids = new Set(wrong(now).map(([id]) => id));
    await keep(
      store,
      now.rows.filter(({ id }) => ids.has(id)),
      tx,
    );
    return ids.size;
  });
}
