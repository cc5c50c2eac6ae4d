import type { Decision, Figure, Id, MouldCount, NextStep, Room } from '@kalvet/core';
import { Op } from 'sequelize';
import type { Where } from '../db/rows.ts';
import type { Store } from '../write/store.ts';
import type { Row } from '../db/tables.ts';
import { fromRow } from '../db/tables.ts';
import { GONE } from './load.ts';

/** What is kept ready of a tree. */
export interface TreeStored {
  readonly next: NextStep | null;
  readonly pieceIds: readonly Id[];
  readonly alloyId: string;
  readonly state: string;
  readonly pourKg: number | null;
  readonly pour: Figure | null;
  /** How many steps its next one waits for. */
  readonly waitsFor: number;
}

/** What is kept ready of a mould. */
export interface MouldStored {
  readonly inUse: boolean;
  readonly next: NextStep | null;
  readonly count: MouldCount;
  readonly decisions: readonly Decision[];
  readonly pieceId: Id | null;
  readonly workId: Id;
  readonly name: string;
  readonly sectionIds: readonly Id[];
}

/** Rows that are read in one statement where there can be very many large ones. */
const AT_ONCE = 350;

interface Kept<T, B = unknown> {
  readonly id: Id;
  readonly data: T;
  readonly beside: B | null;
}

async function keptRows<T, B = unknown>(store: Store, where: Where, attributes: string[]): Promise<Kept<T, B>[]> {
  const found = await store.models.projections.findAll({ where: where as never, attributes, raw: true });
  return (found as unknown as Row[]).map((row) => fromRow<Kept<T, B>>('projections', row));
}

async function dataOf<T>(store: Store, where: Where): Promise<Map<Id, T>> {
  return new Map((await keptRows<T>(store, where, ['id', 'data'])).map(({ id, data }) => [id, data]));
}

/** The trees whose next step is in a room, with what that room's page alone shows of them. */
export async function treesBeside<B>(store: Store, room: Room): Promise<Map<Id, Kept<TreeStored, B>>> {
  const ids = (await keptRows(store, { carrier: 'tree', room }, ['id'])).map(({ id }) => id);
  const all = new Map<Id, Kept<TreeStored, B>>();
  // In parts, so that others are answered between them.
  for (let from = 0; from < ids.length; from += AT_ONCE) {
    const where = { id: ids.slice(from, from + AT_ONCE) };
    for (const row of await keptRows<TreeStored, B>(store, where, ['id', 'data', 'beside'])) all.set(row.id, row);
  }
  return all;
}

/** The stored projections of the pieces that are not out. */
export async function storedOpen<T>(store: Store): Promise<Map<Id, T>> {
  const pieces = await store.models.pieces.findAll({
    where: { state: { [Op.notIn]: GONE } },
    attributes: ['id'],
    raw: true,
  });
  return dataOf<T>(store, { id: (pieces as unknown as { id: Id }[]).map(({ id }) => id) });
}

/** The stored projections of one carrier, all or of some ids. */
export async function stored<T>(
  store: Store,
  carrier: 'piece' | 'tree' | 'mould',
  ids?: readonly Id[],
): Promise<Map<Id, T>> {
  if (ids?.length === 0) return new Map();
  return dataOf<T>(store, { carrier, ...(ids ? { id: ids } : {}) });
}

/** The trees whose next step is in a room. */
export async function treesIn(store: Store, room: Room): Promise<Map<Id, TreeStored>> {
  return dataOf<TreeStored>(store, { carrier: 'tree', room });
}
