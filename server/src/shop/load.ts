import type { Cast, Heat, Id, Load, LoadPlace, Mould, Piece, Pouring, Pull, Shop, Tree, TreeCast } from '@kalvet/core';
import { EMPTY_SHOP, SERIES } from '@kalvet/core';
import { Op, QueryTypes } from 'sequelize';
import type { Transaction } from 'sequelize';
import type { AnyTable } from '../db/tables.ts';
import type { Where } from '../db/rows.ts';
import { rowsOf } from '../db/rows.ts';
import { settingsOf } from '../people/settings.ts';
import { shopAround } from './shop-climate.ts';
import type { Store } from '../write/store.ts';

/** Trees that still hold works together: what was knocked out no longer does. */
const LIVE = "('planned','joined','poured')";

/** States in which a piece is no longer in the house's hands. */
export const GONE = ['delivered', 'cancelled'];
/** States of a heat or kiln load that is still to come or under way. */
export const COMING = ['planned', 'charged', 'running'];

/** The works themselves and those that share a tree with them that is not knocked out yet. */
export async function sharing(store: Store, workIds: readonly Id[], tx?: Transaction): Promise<Id[]> {
  if (workIds.length === 0) return [];
  // Raw: every write and most pages ask this; eight joins in one statement, where models would read five tables in turn.
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
  /** Of other works these pieces alone, with what hangs on them: for lists that go through many works. */
  readonly pieceIds?: readonly Id[];
  /** Of other works these casts alone, with their own steps and weights: what may come along onto a tree. */
  readonly castIds?: readonly Id[];
  /** Pieces that are read although they are delivered or cancelled. */
  readonly alsoPieces?: readonly Id[];
  /** Heats and loads that are read whether or not a tree of theirs is. */
  readonly heatIds?: readonly Id[];
  readonly loadIds?: readonly Id[];
  readonly tx?: Transaction;
}

const idsOf = (records: readonly { readonly id: Id }[]): Id[] => records.map(({ id }) => id);

/** Reads the records of some works that decide what may follow what: their open pieces, and all that hangs on them. */
export async function loadShop(store: Store, scope: Scope): Promise<Shop> {
  const { workIds, pieceIds = [], castIds: loose = [], alsoPieces = [], heatIds = [], loadIds = [], tx } = scope;
  const of = <T>(table: AnyTable, where: Where) => rowsOf<T>(store, table, where, tx);
  // What does not wait for one another's ids is asked for at once: a connection answers in order without a pause between.
  const asked = loose.length > 0 ? await of<Cast>('casts', { id: loose }) : [];
  const singleIds = [...pieceIds, ...asked.map(({ pieceId }) => pieceId)];
  const single =
    singleIds.length > 0 ? await of<Piece>('pieces', { id: singleIds, workId: { [Op.notIn]: workIds } }) : [];
  const allWorks = [...new Set([...workIds, ...single.map(({ workId }) => workId)])];
  const [works, sections, whole, moulds, settings] = await Promise.all([
    of<Shop['works'][number]>('works', { id: allWorks }),
    of<Shop['sections'][number]>('sections', { workId: allWorks }),
    of<Piece>('pieces', {
      workId: workIds,
      [Op.or]: [{ state: { [Op.notIn]: GONE } }, { id: alsoPieces }],
    }),
    loadMoulds(store, workIds, tx),
    settingsOf(store, tx),
  ]);
  const pieces = [...whole, ...single];
  // Of a piece that is there for a cast of it alone, the others are left out.
  const full = new Set([...idsOf(whole), ...pieceIds]);
  const [ofPieces, pulls] = await Promise.all([
    of<Cast>('casts', { pieceId: [...full] }),
    loadPulls(store, moulds, tx),
  ]);
  const alone = asked.filter(({ pieceId }) => !full.has(pieceId) && single.some(({ id }) => id === pieceId));
  const casts = [...ofPieces, ...alone];
  const castIds = idsOf(casts);
  const [known, weights, openItems] = await Promise.all([
    of<TreeCast>('treeCasts', { castId: castIds }),
    of<Shop['weights'][number]>('weights', { castId: castIds }),
    of<Shop['openItems'][number]>('openItems', { castId: castIds }),
  ]);
  const isAlone = new Set(idsOf(alone));
  const treeIds = [...new Set(known.map(({ treeId }) => treeId))];
  const treesWithSteps = [...new Set(known.filter(({ castId }) => !isAlone.has(castId)).map(({ treeId }) => treeId))];
  const [trees, treeCasts, ownPlaces, ownPourings, steps, drynessReadings, around] = await Promise.all([
    of<Tree>('trees', { id: treeIds }),
    of<TreeCast>('treeCasts', { treeId: treeIds }),
    of<LoadPlace>('loadPlaces', { treeId: treeIds }),
    of<Pouring>('pourings', { treeId: treeIds }),
    of<Shop['steps'][number]>('steps', {
      [Op.or]: [{ mouldId: idsOf(moulds) }, { castId: castIds }, { treeId: treesWithSteps }, { pieceId: [...full] }],
    }),
    of<Shop['drynessReadings'][number]>('drynessReadings', { treeId: treesWithSteps, voidReason: null }),
    shopAround(store, tx),
  ]);
  const inCasts = new Set(castIds);
  const fire = await loadFire(of, ownPlaces, ownPourings, { heatIds, loadIds });
  return {
    ...EMPTY_SHOP,
    works,
    sections,
    pieces,
    moulds,
    pulls,
    casts,
    trees,
    // Members whose casts belong to works that were not read are left out; what is knocked out needs no others.
    treeCasts: treeCasts.filter(({ castId }) => inCasts.has(castId)),
    steps,
    weights,
    openItems,
    drynessReadings,
    ...fire,
    routeTimes: settings.routeTimes,
    castFactors: settings.castFactors,
    cups: settings.cups,
    coatPlans: settings.coatPlans,
    coatMm: settings.coatMm,
    inTwoStages: settings.firingStages === 2,
    ...around,
  };
}

type Of = <T>(table: AnyTable, where: Where) => Promise<T[]>;

/** The loads and heats that trees are or were in, with all their places and what was charged. */
async function loadFire(
  of: Of,
  ownPlaces: readonly LoadPlace[],
  ownPourings: readonly Pouring[],
  { heatIds, loadIds }: Required<Pick<Scope, 'heatIds' | 'loadIds'>>,
): Promise<Pick<Shop, 'loads' | 'loadPlaces' | 'heats' | 'pourings' | 'chargeLines'>> {
  const heats = [...new Set([...heatIds, ...ownPourings.map(({ heatId }) => heatId)])];
  const loads = [...new Set([...loadIds, ...ownPlaces.map(({ loadId }) => loadId)])];
  const none = Promise.resolve([]);
  const [heatRows, loadRows, pourings, places, chargeLines] = await Promise.all([
    heats.length > 0 ? of<Heat>('heats', { id: heats }) : none,
    loads.length > 0 ? of<Load>('loads', { id: loads }) : none,
    heats.length > 0 ? of<Pouring>('pourings', { heatId: heats }) : none,
    loads.length > 0 ? of<LoadPlace>('loadPlaces', { loadId: loads }) : none,
    heats.length > 0 ? of<Shop['chargeLines'][number]>('chargeLines', { heatId: heats }) : none,
  ]);
  return { heats: heatRows, loads: loadRows, pourings, loadPlaces: places, chargeLines };
}

/** Everything there is, for the test that builds all projections anew and for mending them. */
export async function loadWholeShop(store: Store, tx?: Transaction): Promise<Shop> {
  const works = await rowsOf<{ id: Id }>(store, 'works', {}, tx);
  const pieces = await rowsOf<Piece>(store, 'pieces', { series: SERIES }, tx);
  return loadShop(store, { workIds: idsOf(works), alsoPieces: idsOf(pieces), ...(tx ? { tx } : {}) });
}

export async function loadMoulds(store: Store, workIds: readonly Id[], tx?: Transaction): Promise<Mould[]> {
  const moulds = await rowsOf<Omit<Mould, 'sectionIds'>>(store, 'moulds', { workId: workIds }, tx);
  const pairs = await rowsOf<{ mouldId: Id; sectionId: Id }>(store, 'mouldSections', { mouldId: idsOf(moulds) }, tx);
  return moulds.map((mould) => ({
    ...mould,
    sectionIds: pairs.flatMap(({ mouldId, sectionId }) => (mouldId === mould.id ? [sectionId] : [])),
  }));
}

async function loadPulls(store: Store, moulds: readonly Mould[], tx?: Transaction): Promise<Pull[]> {
  const pulls = await rowsOf<Omit<Pull, 'castIds'>>(store, 'pulls', { mouldId: idsOf(moulds) }, tx);
  const pairs = await rowsOf<{ pullId: Id; castId: Id }>(store, 'pullCasts', { pullId: idsOf(pulls) }, tx);
  const casts = new Map<Id, Id[]>();
  for (const { pullId, castId } of pairs) casts.set(pullId, [...(casts.get(pullId) ?? []), castId]);
  return pulls.map((pull) => ({ ...pull, castIds: casts.get(pull.id) ?? [] }));
}
