import type { Id } from '../records/common.ts';
import type { Step } from '../records/step.ts';
import { isOpen } from '../records/step.ts';
import type { ShopIndex } from './shop-index.ts';

/**
 * A carrier's steps in the order they are done: the route's own by kind and sequence, each inserted one right after the
 * step it was inserted after. Void ones keep their followers in place and are left out themselves.
 */
export function chainOf(index: ShopIndex, carrierId: Id): readonly Step[] {
  const known = index.chains.get(carrierId);
  if (known) return known;
  const chain = ordered(index, index.stepsOf.get(carrierId) ?? []);
  index.chains.set(carrierId, chain);
  return chain;
}

function ordered({ order }: ShopIndex, steps: readonly Step[]): Step[] {
  const baseOrder = (a: Step, b: Step): number =>
    order.get(a.kind)! - order.get(b.kind)! || a.sequence - b.sequence || (a.id < b.id ? -1 : 1);
  const present = new Set(steps.map((step) => step.id));
  const followers = new Map<Id, Step[]>();
  const base: Step[] = [];
  for (const step of steps) {
    if (step.insertedAfter !== null && present.has(step.insertedAfter)) {
      const found = followers.get(step.insertedAfter);
      if (found) found.push(step);
      else followers.set(step.insertedAfter, [step]);
    } else base.push(step);
  }
  const chain: Step[] = [];
  const place = (step: Step): void => {
    if (step.state !== 'void') chain.push(step);
    for (const follower of (followers.get(step.id) ?? []).sort(baseOrder)) place(follower);
  };
  base.sort(baseOrder).forEach(place);
  return chain;
}

/** Wax side or metal side: a cast and a piece have steps on both, with the tree between them. */
export type Side = 'wax' | 'metal';

const WAX_SIDE: ReadonlySet<string> = new Set(['mould', 'wax', 'sprue']);

/** Splits a cast's or piece's chain where the tree stands between: a step stays on the side of the step it was inserted after. */
export function sidesOf(index: ShopIndex, carrierId: Id): Record<Side, Step[]> {
  const sideOf = (step: Step): Side => {
    const before = step.insertedAfter === null ? undefined : index.step.get(step.insertedAfter);
    if (before?.carrierId === carrierId) return sideOf(before);
    return WAX_SIDE.has(index.kind(step).room) ? 'wax' : 'metal';
  };
  const sides: Record<Side, Step[]> = { wax: [], metal: [] };
  for (const step of chainOf(index, carrierId)) sides[sideOf(step)].push(step);
  return sides;
}

/** The first step that still has to be done; not one beside the way, which nothing waits for. */
export const firstOpen = (index: ShopIndex, chain: readonly Step[]): Step | undefined =>
  chain.find((step) => isOpen(step) && !index.kind(step).aside);
