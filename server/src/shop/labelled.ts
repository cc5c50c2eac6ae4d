import type { Cast, Id, Mould, Piece, Section, ShopIndex, Step, Tree, TreeCast, Weight, Work } from '@kalvet/core';
import { EMPTY_SHOP, indexShop } from '@kalvet/core';
import { rowsOf } from '../db/rows.ts';
import type { Store } from '../write/store.ts';

/** What is to be called by its name. */
export interface Labelled {
  readonly casts?: readonly Id[];
  readonly trees?: readonly Id[];
  readonly pieces?: readonly Id[];
  readonly moulds?: readonly Id[];
  readonly steps?: readonly Step[];
}

/** The records that names and numbers of some carriers are made from, and no others. */
export async function labelled(store: Store, of: Labelled): Promise<ShopIndex> {
  const trees = await rowsOf<Tree>(store, 'trees', { id: [...new Set(of.trees)] });
  const treeIds = trees.map(({ id }) => id);
  const treeCasts = await rowsOf<TreeCast>(store, 'treeCasts', { treeId: treeIds, until: null });
  const castIds = [...new Set([...(of.casts ?? []), ...treeCasts.map(({ castId }) => castId)])];
  const [casts, moulds, weights] = await Promise.all([
    rowsOf<Cast>(store, 'casts', { id: castIds }),
    rowsOf<Mould>(store, 'moulds', { id: [...new Set(of.moulds)] }),
    rowsOf<Weight>(store, 'weights', { castId: castIds }),
  ]);
  const pieceIds = [...new Set([...(of.pieces ?? []), ...casts.map(({ pieceId }) => pieceId)])];
  const pieces = await rowsOf<Piece>(store, 'pieces', { id: pieceIds });
  const workIds = [...new Set([...pieces, ...moulds].map(({ workId }) => workId))];
  const [works, sections, treeSteps] = await Promise.all([
    rowsOf<Work>(store, 'works', { id: workIds }),
    rowsOf<Section>(store, 'sections', { workId: workIds }),
    // How a coat is called goes by how many there are: its tree's steps are read with it.
    rowsOf<Step>(store, 'steps', { treeId: treeIds }),
  ]);
  const all = new Map([...treeSteps, ...(of.steps ?? [])].map((step) => [step.id, step]));
  const rows = { works, sections, pieces, moulds, casts, trees, treeCasts, weights };
  return indexShop({ ...EMPTY_SHOP, ...rows, steps: [...all.values()] });
}
