import type { Id, Step } from '@kalvet/core';
import { KINDS } from '@kalvet/core';
import { rowsOf } from '../db/rows.ts';
import type { Store } from '../write/store.ts';

const JOINS = KINDS.filter(({ joinsTree }) => joinsTree).map(({ code }) => code);

/** What was said of a tree's ways when it was joined. */
export interface Gating {
  readonly chokeMm2: number;
  /** Of the cup; 0 where none was said. */
  readonly cupMm: number;
}

/** Chokes of trees, where somebody said them at the bench. */
export async function gatingOf(store: Store, treeIds: readonly Id[]): Promise<Map<Id, Gating>> {
  if (treeIds.length === 0) return new Map();
  const joined = await rowsOf<Step>(store, 'steps', { kind: JOINS, state: 'done', treeId: treeIds });
  return new Map(
    joined.flatMap(({ carrierId, readings }) => {
      const { chokeMm2, cup } = readings as {
        readonly chokeMm2?: number;
        readonly cup?: { readonly heightMm?: number };
      };
      return typeof chokeMm2 === 'number' ? [[carrierId, { chokeMm2, cupMm: cup?.heightMm ?? 0 }] as const] : [];
    }),
  );
}
