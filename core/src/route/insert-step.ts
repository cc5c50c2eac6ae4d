import type { Op } from '../records/shop.ts';
import { insert, update } from '../records/shop.ts';
import type { StepKindCode } from '../records/step-kinds.ts';
import type { Carrier, Id } from '../records/common.ts';
import { isClosed } from '../records/step.ts';
import { chainOf } from './chain.ts';
import type { NewId } from './grow.ts';
import { plannedStep } from './grow.ts';
import type { ShopIndex } from './shop-index.ts';

/** What a person may insert, and into what. */
export const INSERTABLE: Readonly<Partial<Record<StepKindCode, readonly Carrier[]>>> = {
  'repair-mould': ['mould'],
  rework: ['piece', 'cast'],
  approval: ['piece'],
  elsewhere: ['mould', 'cast', 'tree', 'piece'],
  dry: ['tree'],
  patch: ['tree'],
  refire: ['tree'],
  'leak-test': ['tree'],
  weld: ['cast'],
};

/**
 * Inserts a step behind the last one that is done (or, where nothing is, behind the one given). It keeps what it was
 * inserted after and why. Undefined where the carrier has no step to follow.
 */
export function insertStep(
  index: ShopIndex,
  carrierId: Id,
  kind: StepKindCode,
  why: string,
  newId: NewId,
  afterId?: Id,
): Op[] | undefined {
  const chain = chainOf(index.stepsOf.get(carrierId) ?? []);
  const after = afterId ? chain.find((step) => step.id === afterId) : (chain.findLast(isClosed) ?? chain[0]);
  if (!after) return undefined;
  return [
    insert('steps', plannedStep(newId, kind, after.carrier, carrierId, { insertedAfter: after.id, insertedWhy: why })),
    ...(kind === 'repair-mould' ? [update('moulds', carrierId, { state: 'in repair' })] : []),
  ];
}
