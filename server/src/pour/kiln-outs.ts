import type { Id, KilnOut, PourWindow, Step } from '@kalvet/core';
import { DEFAULT_COAT_MM, KINDS, secondsUntil } from '@kalvet/core';
import { rowsOf } from '../db/rows.ts';
import type { Store } from '../write/store.ts';

const COATS = KINDS.filter(({ coat }) => coat).map(({ code }) => code);

/** The coats of trees that have any: what has none is no shell. */
export async function coatsOf(store: Store, treeIds: readonly Id[]): Promise<Map<Id, number>> {
  const coats = new Map<Id, number>();
  if (treeIds.length === 0) return coats;
  for (const { carrierId, sequence } of await rowsOf<Step>(store, 'steps', { kind: COATS, treeId: treeIds }))
    coats.set(carrierId, Math.max(sequence, coats.get(carrierId) ?? 0));
  return coats;
}

/** Between which seconds after the kiln a shell of so many coats is in its window. */
export function kilnOutOf(coats: number, { mouldC: [low, high] }: PourWindow, fromC: number, share: number): KilnOut {
  const wallMm = coats * DEFAULT_COAT_MM;
  const shell = { fromC, wallMm, share };
  return { wallMm, fromC, share, fromS: secondsUntil(high, shell), toS: secondsUntil(low, shell) };
}
