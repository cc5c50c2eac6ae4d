import type { Id, MouldCount, NextStep, Room, Text } from '@kalvet/core';
import { Op } from 'sequelize';
import type { Where } from '../write/context.ts';
import type { Store } from '../write/store.ts';
import { GONE, rowsOf } from './load.ts';

/** What is kept ready of a tree. */
export interface TreeStored {
  readonly next: NextStep | null;
  readonly pieceIds: readonly Id[];
  readonly alloyId: string;
  readonly state: string;
  readonly pourKg: number | null;
}

/** What is kept ready of a mould. */
export interface MouldStored {
  readonly inUse: boolean;
  readonly next: NextStep | null;
  readonly count: MouldCount;
  readonly decisions: readonly { readonly text: Text; readonly urgent: boolean }[];
  readonly pieceId: Id | null;
}

async function dataOf<T>(store: Store, where: Where): Promise<Map<Id, T>> {
  const rows = await rowsOf<{ id: Id; data: T }>(store, 'projections', where);
  return new Map(rows.map(({ id, data }) => [id, data]));
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
