import type { Id, Shop, Tree, TreeCast, Cast, Piece, Pull, Mould } from '@kalvet/core';
import { Op, QueryTypes } from 'sequelize';
import type { Transaction } from 'sequelize';
import type { TableName } from '../db/tables.ts';
import { fromRow } from '../db/tables.ts';
import { settingsOf } from '../people/settings.ts';
import type { Store } from '../write/context.ts';

/** Trees that still hold works together: what was knocked out no longer does. */
const LIVE = "('planned','joined','poured')";

async function rows<T>(store: Store, table: TableName, where: Record<string, unknown>, tx?: Transaction): Promise<T[]> {
  const found = await store.models[table].findAll({
    where: where as never,
    raw: true,
    transaction: tx ?? null,
  });
  return (found as unknown as Record<string, unknown>[]).map((row) => fromRow<T>(table, row));
}

/** The works themselves and those that share a tree with them that is not knocked out yet. */
export async function sharing(store: Store, workIds: readonly Id[], tx?: Transaction): Promise<Id[]> {
  if (workIds.length === 0) return [];
  const found = await store.db.query<{ workId: Id }>(
    `SELECT DISTINCT p2.workId FROM piece p
       JOIN cast_ c ON c.pieceId = p.id JOIN tree_cast m ON m.castId = c.id AND m.until IS NULL
       JOIN tree t ON t.id = m.treeId AND t.state IN ${LIVE}
       JOIN tree_cast m2 ON m2.treeId = t.id AND m2.until IS NULL
       JOIN cast_ c2 ON c2.id = m2.castId JOIN piece p2 ON p2.id = c2.pieceId
      WHERE p.workId IN (:workIds) AND p.state NOT IN ('delivered','cancelled')`,
    { replacements: { workIds }, type: QueryTypes.SELECT, transaction: tx ?? null },
  );
  return [...new Set([...workIds, ...found.map(({ workId }) => workId)])];
}

/** Which part of the shop is read. */
export interface Scope {
  readonly workIds: readonly Id[];
  /** Pieces that are read although they are delivered or cancelled. */
  readonly alsoPieces?: readonly Id[];
  readonly tx?: Transaction;
}

/** Reads the records of some works that decide what may follow what: their open pieces, and all that hangs on them. */
export async function loadShop(store: Store, { workIds, alsoPieces = [], tx }: Scope): Promise<Shop> {
  const of = <T>(table: TableName, where: Record<string, unknown>) => rows<T>(store, table, where, tx);
  // What does not wait for one another's ids is asked for at once: a connection answers in order without a pause between.
  const [works, sections, pieces, moulds, settings] = await Promise.all([
    of<Shop['works'][number]>('works', { id: workIds }),
    of<Shop['sections'][number]>('sections', { workId: workIds }),
    of<Piece>('pieces', {
      workId: workIds,
      [Op.or as never]: [{ state: { [Op.notIn]: ['delivered', 'cancelled'] } }, { id: alsoPieces }],
    }),
    loadMoulds(store, workIds, tx),
    settingsOf(store, tx),
  ]);
  const [casts, pulls] = await Promise.all([
    of<Cast>('casts', { pieceId: pieces.map(({ id }) => id) }),
    loadPulls(
      store,
      moulds.map(({ id }) => id),
      tx,
    ),
  ]);
  const castIds = casts.map(({ id }) => id);
  const [known, weights, openItems] = await Promise.all([
    of<TreeCast>('treeCasts', { castId: castIds }),
    of<Shop['weights'][number]>('weights', { castId: castIds }),
    of<Shop['openItems'][number]>('openItems', { castId: castIds }),
  ]);
  const treeIds = [...new Set(known.map(({ treeId }) => treeId))];
  const [trees, treeCasts, loadPlaces, pourings, steps] = await Promise.all([
    of<Tree>('trees', { id: treeIds }),
    of<TreeCast>('treeCasts', { treeId: treeIds }),
    of<Shop['loadPlaces'][number]>('loadPlaces', { treeId: treeIds }),
    of<Shop['pourings'][number]>('pourings', { treeId: treeIds }),
    of<Shop['steps'][number]>('steps', {
      [Op.or as never]: [
        { mouldId: moulds.map(({ id }) => id) },
        { castId: castIds },
        { treeId: treeIds },
        { pieceId: pieces.map(({ id }) => id) },
      ],
    }),
  ]);
  return {
    works,
    sections,
    pieces,
    moulds,
    pulls,
    casts,
    trees,
    // Members whose casts belong to works that were not read are left out; what is knocked out needs no others.
    treeCasts: treeCasts.filter(({ castId }) => castIds.includes(castId)),
    loads: [],
    loadPlaces,
    heats: [],
    pourings,
    steps,
    weights,
    openItems,
    routeTimes: settings.routeTimes,
  };
}

/** Everything there is, for the test that builds all projections anew and for the demo. */
export async function loadWholeShop(store: Store): Promise<Shop> {
  const works = await rows<{ id: Id }>(store, 'works', {});
  const pieces = await rows<{ id: Id }>(store, 'pieces', {});
  return loadShop(store, { workIds: works.map(({ id }) => id), alsoPieces: pieces.map(({ id }) => id) });
}

export async function loadMoulds(store: Store, workIds: readonly Id[], tx?: Transaction): Promise<Mould[]> {
  const moulds = await rows<Omit<Mould, 'sectionIds'>>(store, 'moulds', { workId: workIds }, tx);
  const pairs = await joined(
    store,
    'SELECT mouldId AS one, sectionId AS other FROM mould_section WHERE mouldId IN (:ids)',
    moulds,
    tx,
  );
  return moulds.map((mould) => ({ ...mould, sectionIds: pairs.get(mould.id) ?? [] }));
}

async function loadPulls(store: Store, mouldIds: readonly Id[], tx?: Transaction): Promise<Pull[]> {
  const pulls = await rows<Omit<Pull, 'castIds'>>(store, 'pulls', { mouldId: mouldIds }, tx);
  const pairs = await joined(
    store,
    'SELECT pullId AS one, castId AS other FROM pull_cast WHERE pullId IN (:ids)',
    pulls,
    tx,
  );
  return pulls.map((pull) => ({ ...pull, castIds: pairs.get(pull.id) ?? [] }));
}

async function joined(
  store: Store,
  sql: string,
  from: readonly { id: Id }[],
  tx?: Transaction,
): Promise<Map<Id, Id[]>> {
  const pairs = new Map<Id, Id[]>();
  if (from.length === 0) return pairs;
  const found = await store.db.query<{ one: Id; other: Id }>(sql, {
    replacements: { ids: from.map(({ id }) => id) },
    type: QueryTypes.SELECT,
    transaction: tx ?? null,
  });
  for (const { one, other } of found) pairs.set(one, [...(pairs.get(one) ?? []), other]);
  return pairs;
}

/** All records of a table that meet a condition. */
export const loadRows = rows;
