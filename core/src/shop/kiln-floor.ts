import type { Id } from '../records/common.ts';
import type { ShopSettings } from '../records/settings.ts';
import type { Refusal } from '../records/refusal.ts';
import { never } from '../records/refusal.ts';
import type { Floor, Footprint, Packed } from '../burnout/pack-floor.ts';
import { packFloor } from '../burnout/pack-floor.ts';
import type { TreeSize } from '../burnout/tree-footprint.ts';
import { treeFootprint } from '../burnout/tree-footprint.ts';
import { treeLabel } from '../route/labels.ts';
import type { ShopIndex } from '../route/shop-index.ts';
import { castsOfTree } from '../route/shop-index.ts';
import { kg, mm } from '../units/quantity.ts';
import { joined, say } from '../units/words.ts';
import { wallOf } from './shell-wall.ts';
import { treeFigures } from './tree-figures.ts';

/** The kiln's own figures that loads are laid by. */
export type KilnNumbers = Pick<
  ShopSettings,
  'kilnAcrossMm' | 'kilnDeepMm' | 'kilnHighMm' | 'kilnGapMm' | 'kilnMostKg' | 'kilnPlaces' | 'liftLimitKg'
>;

/** A tree as it stands in the kiln. */
export interface KilnTree extends TreeSize {
  readonly treeId: Id;
  /** Somebody measured it; else it is worked out from its sections. */
  readonly measured: boolean;
  /** Shell and wax; null where a wax was never weighed. */
  readonly kg: number | null;
}

export const floorOf = ({ kilnAcrossMm, kilnDeepMm, kilnGapMm }: KilnNumbers): Floor => ({
  acrossMm: kilnAcrossMm,
  deepMm: kilnDeepMm,
  gapMm: kilnGapMm,
});

/** A tree as it stands in the kiln: as it was measured, else by its sections. */
export function kilnTree(index: ShopIndex, treeId: Id, { liftLimitKg }: Pick<KilnNumbers, 'liftLimitKg'>): KilnTree {
  const tree = index.tree.get(treeId)!;
  const sections = castsOfTree(index, treeId).map(({ sectionId }) => index.section.get(sectionId)!);
  const own =
    tree.footprint ??
    treeFootprint(sections.length > 0 ? sections : [{ metalHeightMm: null, areaCm2: null }], {
      wallMm: wallOf(index, treeId).sealedMm,
      isBlock: tree.method === 'block',
    });
  return {
    treeId,
    ...own,
    measured: Boolean(tree.footprint),
    kg: treeFigures(index, treeId, liftLimitKg).dipping?.weight.value ?? null,
  };
}

/** How many of the planner's places in the kiln a tree takes: by its footprint, never more than there are. */
export function kilnPlacesOf(index: ShopIndex, treeId: Id, numbers: KilnNumbers): number {
  const { acrossMm, deepMm } = kilnTree(index, treeId, numbers);
  const { kilnAcrossMm, kilnDeepMm, kilnGapMm, kilnPlaces } = numbers;
  const own = (acrossMm + kilnGapMm) * (deepMm + kilnGapMm);
  const one = (kilnAcrossMm * kilnDeepMm) / kilnPlaces;
  return Math.min(kilnPlaces, Math.max(1, Math.round(own / one)));
}

const footprintOf = ({ treeId, acrossMm, deepMm }: KilnTree): Footprint => ({ id: treeId, acrossMm, deepMm });

/** Trees laid on the kiln's floor. */
export const layTrees = (trees: readonly KilnTree[], numbers: KilnNumbers): Packed =>
  packFloor(trees.map(footprintOf), floorOf(numbers));

/** Which of some trees would still find a place beside those of a load, each by itself. */
export const wouldFit = (load: readonly KilnTree[], others: readonly KilnTree[], numbers: KilnNumbers): Id[] =>
  others
    .filter((tree) => tree.highMm <= numbers.kilnHighMm && layTrees([...load, tree], numbers).left.length === 0)
    .map(({ treeId }) => treeId);

/** What of a load the kiln does not take: too high, too heavy, no place on its floor. */
export function judgeFloor(index: ShopIndex, trees: readonly KilnTree[], numbers: KilnNumbers): Refusal[] {
  const { kilnAcrossMm, kilnDeepMm, kilnHighMm, kilnGapMm, kilnMostKg } = numbers;
  const refusals: Refusal[] = trees
    .filter(({ highMm }) => highMm > kilnHighMm)
    .map(({ treeId, highMm }) =>
      never('kiln', say`${treeLabel(index, treeId)} is ${mm(highMm, 0)} high; the kiln takes ${mm(kilnHighMm, 0)}.`),
    );
  const total = trees.reduce((sum, tree) => sum + (tree.kg ?? 0), 0);
  if (total > kilnMostKg)
    refusals.push(
      never('kiln', say`Together they weigh ${kg(total, 0)}; the kiln’s floor bears ${kg(kilnMostKg, 0)}.`),
    );
  const { left } = layTrees(trees, numbers);
  if (left.length > 0) {
    const names = joined(
      left.map((id) => treeLabel(index, id)),
      ', ',
    );
    const floor = say`${mm(kilnAcrossMm, 0)} × ${mm(kilnDeepMm, 0)}, ${mm(kilnGapMm, 0)} between`;
    refusals.push(never('kiln', say`No place on the kiln’s floor (${floor}) for ${names}.`));
  }
  return refusals;
}
