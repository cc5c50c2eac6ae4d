import type { Id, Tree, TreeCast } from '@kalvet/core';
import { rowsOf } from '../db/rows.ts';
import type { Store } from '../write/store.ts';

interface CastWall {
  readonly id: Id;
  readonly section: { readonly wallMm: number; readonly metalHeightMm: number | null };
}

/** The thinnest wall that is to be filled on each tree and how high its metal stands, mm, and how the tree is invested. */
export async function thinnestWalls(
  store: Store,
  treeIds: readonly Id[],
): Promise<Map<Id, { readonly wallMm: number; readonly heightMm: number | null; readonly method: Tree['method'] }>> {
  const [members, trees] = await Promise.all([
    rowsOf<TreeCast>(store, 'treeCasts', { treeId: treeIds, until: null }),
    rowsOf<Tree>(store, 'trees', { id: treeIds }),
  ]);
  const casts = await store.models.casts.findAll({
    where: { id: members.map(({ castId }) => castId) },
    attributes: ['id'],
    include: [{ association: 'section', attributes: ['wallMm', 'metalHeightMm'] }],
  });
  const walls = new Map((casts as unknown as CastWall[]).map(({ id, section }) => [id, section]));
  return new Map(
    trees.map(({ id, method }) => {
      const own = members.filter(({ treeId }) => treeId === id).flatMap(({ castId }) => walls.get(castId) ?? []);
      const heights = own.flatMap(({ metalHeightMm }) => metalHeightMm ?? []);
      return [
        id,
        {
          wallMm: Math.min(...own.map(({ wallMm }) => wallMm)),
          heightMm: heights.length > 0 ? Math.max(...heights) : null,
          method,
        },
      ];
    }),
  );
}
