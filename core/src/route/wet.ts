import type { Id } from '../records/common.ts';
import { isClosed } from '../records/step.ts';
import type { Instant } from '../units/instant.ts';
import { chainOf } from './chain.ts';
import type { ShopIndex } from './shop-index.ts';

/**
 * Since when a tree's shell or block is wet, or null. Whatever wets it (a dip, a patch, an investment, a water test) counts
 * from then on; only a drying or heating step clears it, a test that was passed does not.
 */
export function wetSince(index: ShopIndex, treeId: Id): Instant | null {
  let since: Instant | null = null;
  for (const step of chainOf(index, treeId)) {
    if (!isClosed(step) || step.state === 'skipped') continue;
    const kind = index.kind(step);
    if (kind.wets?.(step.readings)) since ??= step.endedAt;
    else if (kind.dries && step.state === 'done') since = null;
  }
  return since;
}
