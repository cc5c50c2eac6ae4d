import { waxDensityOf } from '../materials/waxes.ts';
import type { Id } from '../records/common.ts';
import type { ShopIndex } from '../route/shop-index.ts';
import type { BlockMix } from '../shell/block-mix.ts';
import { blockMix } from '../shell/block-mix.ts';
import { kilnTree } from './kiln-floor.ts';
import { waxIn } from './wax-in.ts';

/** The mix that a tree's block takes, by the room it takes and the wax in it; null where nothing is known of a cast. */
export function blockOf(index: ShopIndex, treeId: Id, liftLimitKg: number): BlockMix | null {
  const wax = waxIn(index, treeId, liftLimitKg);
  if (!wax) return null;
  const kg = wax.castsKg + wax.barsKg + wax.cupsKg;
  const litres = kg / waxDensityOf('pattern');
  const { acrossMm, deepMm, highMm } = kilnTree(index, treeId, { liftLimitKg });
  return litres < (acrossMm * deepMm * highMm) / 1e6 ? blockMix({ acrossMm, deepMm, highMm }, litres, kg) : null;
}
