import type { Id, Pouring, Tree } from '@kalvet/core';
import { placesTaken } from '@kalvet/core';
import type { Transaction } from 'sequelize';
import { Op } from 'sequelize';
import { rowsOf } from '../db/rows.ts';
import type { Store } from '../write/store.ts';

/** A tree that stands in the pit. */
export interface InPit {
  readonly treeId: Id;
  readonly label: string;
  readonly poured: boolean;
}

/** Places of the pit that are taken, from setting to knock-out. @param exceptHeatId a heat whose own trees do not count */
export async function pitTaken(
  store: Store,
  { exceptHeatId, tx }: { readonly exceptHeatId?: Id; readonly tx?: Transaction } = {},
): Promise<Map<number, InPit>> {
  const where = { place: { [Op.ne]: null }, ...(exceptHeatId ? { heatId: { [Op.ne]: exceptHeatId } } : {}) };
  const pourings = await rowsOf<Pouring>(store, 'pourings', where, tx);
  const trees = await rowsOf<Tree>(
    store,
    'trees',
    { id: pourings.map(({ treeId }) => treeId), state: { [Op.in]: ['joined', 'poured'] } },
    tx,
  );
  const treeOf = new Map(trees.map((tree) => [tree.id, tree]));
  return new Map(
    [...placesTaken(pourings, new Set(treeOf.keys()))].map(([place, treeId]) => {
      const { number, state } = treeOf.get(treeId)!;
      return [place, { treeId, label: `T-${number}`, poured: state === 'poured' }];
    }),
  );
}
