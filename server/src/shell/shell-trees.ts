import type { Id, NextStep } from '@kalvet/core';
import type { Transaction } from 'sequelize';
import { rowsOf } from '../db/rows.ts';
import type { Store } from '../write/store.ts';

/** Rooms in which a tree's last coat may still dry. */
const ROOMS = ['shell', 'burnout'];

export interface ShellTree {
  readonly treeId: Id;
  readonly readyAt: string | null;
  readonly waits: readonly string[];
}

/** Trees that may be drying, with when they are kept ready for and what they wait for. */
export const shellTrees = async (store: Store, tx?: Transaction): Promise<ShellTree[]> =>
  (
    await rowsOf<{ id: Id; readyAt: string | null; data: { next: NextStep | null } }>(
      store,
      'projections',
      { carrier: 'tree', room: ROOMS },
      tx,
    )
  ).map(({ id, readyAt, data }) => ({ treeId: id, readyAt, waits: data.next?.waits ?? [] }));
