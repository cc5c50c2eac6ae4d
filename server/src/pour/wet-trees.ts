import type { Id, Step } from '@kalvet/core';
import { EMPTY_SHOP, indexShop, wetSince } from '@kalvet/core';
import { rowsOf } from '../db/rows.ts';
import type { Store } from '../write/store.ts';

/** Which of some trees are wet now: never poured so. */
export async function wetTrees(store: Store, treeIds: readonly Id[]): Promise<Set<Id>> {
  if (treeIds.length === 0) return new Set();
  const steps = await rowsOf<Step>(store, 'steps', { treeId: treeIds });
  const index = indexShop({ ...EMPTY_SHOP, steps });
  return new Set(treeIds.filter((id) => wetSince(index, id) !== null));
}
