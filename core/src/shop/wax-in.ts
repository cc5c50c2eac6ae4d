import { alloyOf } from '../materials/alloys.ts';
import { waxDensityOf } from '../materials/waxes.ts';
import type { Load } from '../records/burnout.ts';
import type { Id } from '../records/common.ts';
import type { ShopIndex } from '../route/shop-index.ts';
import { castsOfTree } from '../route/shop-index.ts';
import { plannedWax } from '../wax/planned-wax.ts';
import { countingWeight, waxDensityOfCast } from './cast-weights.ts';
import { treeFigures } from './tree-figures.ts';

/** Wax in a tree before it is burnt out, kg. */
export interface WaxIn {
  readonly castsKg: number;
  readonly barsKg: number;
  readonly cupsKg: number;
}

/**
 * The wax in a tree: its casts as weighed, or as planned where nobody weighed one; bars and cup by their metal, as much less as
 * sprue wax is lighter. Null where nothing is known of a cast.
 */
export function waxIn(index: ShopIndex, treeId: Id, liftLimitKg: number): WaxIn | null {
  const casts = castsOfTree(index, treeId).map((cast) => {
    const section = index.section.get(cast.sectionId)!;
    return countingWeight(index, cast.id, 'wax')?.kg ?? plannedWax(section, waxDensityOfCast(index, cast.id))?.value;
  });
  if (casts.length === 0 || casts.some((kg) => kg === undefined)) return null;
  const { metal } = treeFigures(index, treeId, liftLimitKg);
  const asWax = waxDensityOf('sprue') / alloyOf(index.tree.get(treeId)!.alloyId).densityGPerCm3;
  return {
    castsKg: casts.reduce<number>((sum, kg) => sum + kg!, 0),
    barsKg: (metal?.barsKg ?? 0) * asWax,
    cupsKg: (metal?.cupKg ?? 0) * asWax,
  };
}

/**
 * The wax that a load takes out of a tree: none where it was taken out before, in a load of its own or a first firing; null
 * where nothing is known of it.
 */
export function waxOnWayIn(
  index: ShopIndex,
  { purpose }: Pick<Load, 'purpose'>,
  treeId: Id,
  liftLimitKg: number,
): WaxIn | null {
  const apart = (index.stepsOf.get(treeId) ?? []).some(
    (step) => index.kind(step).kiln === 'dewax' && step.state !== 'void',
  );
  const isFirst = apart ? purpose === 'dewax' : purpose !== 'refire';
  return isFirst ? waxIn(index, treeId, liftLimitKg) : null;
}
