import type { Load, LoadAnswer, LoadPlace } from '@kalvet/core';
import { COMING } from '../shop/load.ts';
import { rowsOf } from '../db/rows.ts';
import type { TreeStored } from '../shop/stored.ts';
import { stored } from '../shop/stored.ts';
import type { Store } from '../write/store.ts';

/** The loads that are planned or running. */
export async function openLoads(store: Store): Promise<LoadAnswer[]> {
  const loads = await rowsOf<Load>(store, 'loads', { state: COMING });
  const places = await rowsOf<LoadPlace>(store, 'loadPlaces', { loadId: loads.map(({ id }) => id) });
  const trees = await stored<TreeStored>(
    store,
    'tree',
    places.map(({ treeId }) => treeId),
  );
  return loads.map(({ id, number, purpose, state, version }) => ({
    id,
    number,
    purpose,
    state,
    version,
    trees: places
      .filter((place) => place.loadId === id)
      .map(({ treeId, outcome }) => ({ treeId, label: trees.get(treeId)?.next?.on ?? 'tree', outcome })),
  }));
}
