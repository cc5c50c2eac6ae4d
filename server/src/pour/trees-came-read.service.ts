import type { Id, Step, Tree, TreeCast, Weight } from '@kalvet/core';
import { KINDS } from '@kalvet/core';
import { rowsOf } from '../db/rows.ts';
import type { Store } from '../write/store.ts';

const TAKES_OFF = KINDS.filter(({ freesCasts }) => freesCasts).map(({ code }) => code);

/** What came of a tree once its shell was off, kg. */
export interface TreeCame {
  readonly castsKg: number;
  readonly returnsKg: number;
}

/** Casts and returns of trees that are knocked out. */
export async function treesCame(store: Store, treeIds: readonly Id[]): Promise<Map<Id, TreeCame>> {
  const trees = await rowsOf<Tree>(store, 'trees', { id: treeIds, state: 'knocked out' });
  const ids = trees.map(({ id }) => id);
  const [members, steps] = await Promise.all([
    rowsOf<TreeCast>(store, 'treeCasts', { treeId: ids }),
    rowsOf<Step>(store, 'steps', { kind: TAKES_OFF, state: 'done', treeId: ids }),
  ]);
  // As they were weighed when the shell came off, not later.
  const weights = await rowsOf<Weight>(store, 'weights', {
    of: 'cast',
    stepId: steps.map(({ id }) => id),
    castId: members.map(({ castId }) => castId),
  });
  const kgOf = new Map(weights.map(({ castId, kg }) => [castId, kg]));
  return new Map(
    ids.map((id) => [
      id,
      {
        castsKg: members
          .filter(({ treeId }) => treeId === id)
          .reduce((sum, { castId }) => sum + (kgOf.get(castId) ?? 0), 0),
        returnsKg: steps
          .filter(({ carrierId }) => carrierId === id)
          .reduce((sum, { readings }) => sum + Number(readings['returnsKg'] ?? 0), 0),
      },
    ]),
  );
}
