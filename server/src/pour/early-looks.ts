import type { Id, LookAt, Step } from '@kalvet/core';
import { KINDS, addMinutes, kindOf, treeLabel } from '@kalvet/core';
import { rowsOf } from '../db/rows.ts';
import { labelled } from '../shop/labelled.ts';
import type { Store } from '../write/store.ts';

const LOOKS = KINDS.filter(({ aside, room, carrier }) => aside && room === 'pour' && carrier === 'tree');
const POURS = KINDS.filter(({ through, carrier }) => through === 'heat' && carrier === 'tree').map(({ code }) => code);

/** Trees that were poured and still hang in their shells, with when each can be looked at. */
export async function earlyLooks(store: Store): Promise<LookAt[]> {
  const open = await rowsOf<Step>(store, 'steps', { kind: LOOKS.map(({ code }) => code), state: 'planned' });
  const treeIds = open.map(({ carrierId }) => carrierId);
  if (treeIds.length === 0) return [];
  const poured = await rowsOf<Step>(store, 'steps', { kind: POURS, state: 'done', treeId: treeIds });
  const last = new Map<Id, string>();
  for (const { carrierId, endedAt } of poured)
    if (endedAt !== null && endedAt > (last.get(carrierId) ?? '')) last.set(carrierId, endedAt);
  const waiting = open.filter(({ carrierId }) => last.has(carrierId));
  const index = await labelled(store, { trees: waiting.map(({ carrierId }) => carrierId) });
  return waiting
    .map(({ id, kind, carrierId }): LookAt => {
      const pouredAt = last.get(carrierId)!;
      const from = addMinutes(pouredAt, kindOf(kind).comesAfter?.min ?? 0);
      return { treeId: carrierId, label: treeLabel(index, carrierId), stepId: id, pouredAt, from };
    })
    .sort((a, b) => a.pouredAt.localeCompare(b.pouredAt));
}
