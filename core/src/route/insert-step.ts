import type { Op } from '../records/shop.ts';
import { insert } from '../records/shop.ts';
import type { Carrier, Id } from '../records/common.ts';
import type { StepKindCode } from '../records/step.ts';
import { isClosed } from '../records/step.ts';
import { chainOf } from './chain.ts';
import { plannedStep } from './grow.ts';
import type { ShopIndex } from './shop-index.ts';
import type { NewId, StepKind } from './step-kind.ts';

/** The kinds that a person may put in by hand on a carrier. */
export const insertableOn = (kinds: readonly StepKind[], carrier: Carrier): StepKind[] =>
  kinds.filter(({ insertable }) => insertable?.includes(carrier));

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
  const chain = chainOf(index, carrierId);
  const after = afterId ? chain.find((step) => step.id === afterId) : (chain.findLast(isClosed) ?? chain[0]);
  if (!after) return undefined;
  return [
    insert('steps', plannedStep(newId, kind, after.carrier, carrierId, { insertedAfter: after.id, insertedWhy: why })),
    ...(index.kind({ kind }).inserted?.(carrierId) ?? []),
  ];
}
