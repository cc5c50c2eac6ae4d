import { alloyOf } from '../materials/alloys.ts';
import type { Id } from '../records/common.ts';
import { isClosed } from '../records/step.ts';
import { coatCount } from '../route/labels.ts';
import type { ShopIndex } from '../route/shop-index.ts';
import { castsOfTree } from '../route/shop-index.ts';
import type { Lift } from '../shell/weight.ts';
import { lift, shellWeight } from '../shell/weight.ts';
import type { Bars, TreeMetal } from '../sprue/tree-metal.ts';
import type { Cup, NamedCup } from '../records/tree-stock.ts';
import { DEFAULT_CUPS } from '../records/tree-stock.ts';
import { cupSaid, usualCup } from '../sprue/cups.ts';
import { treeMetal } from '../sprue/tree-metal.ts';
import type { Figure } from '../units/figure.ts';
import { chargeFromWax } from '../wax/bronze-from-wax.ts';
import { plannedWax } from '../wax/planned-wax.ts';
import { countingWeight, waxDensityOfCast } from './cast-weights.ts';

/** What a tree takes, carries and weighs. */
export interface TreeFigures {
  readonly metal?: TreeMetal;
  /** The cup that counts: the one that was said, else the usual one for such casts; null for none. */
  readonly cup?: NamedCup | Cup | null;
  readonly shell?: Figure;
  /** Wax and shell while dipping. */
  readonly dipping?: Lift;
  /** Shell and metal after the pour. */
  readonly poured?: Lift;
}

/** An index never changes, and a plan asks for the same trees again and again. */
const known = new WeakMap<ShopIndex, Map<string, TreeFigures>>();

/** A tree's figures from its waxes, its bars and cup as joined, and its coats; empty where a wax has no weight at all. */
export function treeFigures(index: ShopIndex, treeId: Id, liftLimitKg: number): TreeFigures {
  const own = known.get(index) ?? new Map<string, TreeFigures>();
  known.set(index, own);
  const key = `${treeId} ${liftLimitKg}`;
  const found = own.get(key) ?? workOut(index, treeId, liftLimitKg);
  own.set(key, found);
  return found;
}

function workOut(index: ShopIndex, treeId: Id, liftLimitKg: number): TreeFigures {
  const casts = castsOfTree(index, treeId);
  const tree = index.tree.get(treeId)!;
  const alloy = alloyOf(tree.alloyId);
  const waxes = casts.map((cast) => {
    const density = waxDensityOfCast(index, cast.id);
    const weighed = countingWeight(index, cast.id, 'wax');
    const kg = weighed?.kg ?? plannedWax(index.section.get(cast.sectionId)!, density)?.value;
    return { kg, weighed: weighed !== undefined, density };
  });
  if (waxes.length === 0 || waxes.some(({ kg }) => kg === undefined)) return {};
  const join = (index.stepsOf.get(treeId) ?? []).find((step) => index.kind(step).joinsTree && isClosed(step));
  const castKg = waxes.map(({ kg, density }) => chargeFromWax(kg!, alloy, density));
  const castsKg = castKg.reduce((sum, { value }) => sum + value, 0);
  const usual = usualCup(index.shop.cups ?? DEFAULT_CUPS, castsKg, alloy.densityGPerCm3);
  const cup = cupSaid(join?.readings['cup'], usual);
  const metal = treeMetal({
    castsKg,
    castsPlusMinusKg: castKg.reduce((sum, { plusMinus }) => sum + (plusMinus ?? 0), 0),
    // What nobody has weighed or joined yet is an estimate.
    estimated: !join || waxes.some(({ weighed }) => !weighed),
    bars: (join?.readings['bars'] ?? []) as Bars[],
    cup,
    densityGPerCm3: alloy.densityGPerCm3,
  });
  const areas = casts.map((cast) => index.section.get(cast.sectionId)!.areaCm2);
  if (tree.method === 'block' || areas.some((area) => area === null)) return { metal, cup };
  const shell = shellWeight(
    areas.reduce((sum: number, area) => sum + area!, 0),
    coatCount(index, treeId),
    index.shop.coatMm,
  );
  const waxKg = waxes.reduce((sum, { kg }) => sum + kg!, 0);
  const treeKg = join?.readings['treeKg'];
  return {
    metal,
    cup,
    shell,
    dipping: lift({ wax: typeof treeKg === 'number' ? treeKg : waxKg, shell: shell.value }, liftLimitKg),
    poured: lift({ shell: shell.value, metal: metal.pourWeight.value }, liftLimitKg),
  };
}
