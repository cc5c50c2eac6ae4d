import type { Id } from '../records/common.ts';
import type { Piece, Section, Weight } from '../records/work.ts';
import { alloyOf } from '../materials/alloys.ts';
import type { Figure } from '../units/figure.ts';
import { toMs } from '../units/instant.ts';
import type { Deviation } from '../wax/bronze-from-wax.ts';
import { castFromWax, chargeFromWax, waxDeviation } from '../wax/bronze-from-wax.ts';
import { wallFromWax, waxFromWall } from '../wax/wall.ts';
import type { TreeMetal } from '../sprue/tree-metal.ts';
import { DEFAULT_CUP, treeMetal } from '../sprue/tree-metal.ts';
import type { Bars } from '../sprue/tree-metal.ts';
import type { Lift } from '../shell/weight.ts';
import { lift, shellWeight } from '../shell/weight.ts';
import { isClosed } from '../records/step.ts';
import type { ShopIndex } from './shop-index.ts';
import { castsOfTree, currentCast } from './shop-index.ts';
import { coatCount } from './labels.ts';

/**
 * Which of several weights counts: not void, then the smallest relative uncertainty, then the newest. None is erased.
 */
export function weightThatCounts(weights: readonly Weight[]): Weight | undefined {
  return [...weights]
    .filter((weight) => weight.voidReason === null)
    .sort((a, b) => a.plusMinusKg / a.kg - b.plusMinusKg / b.kg || toMs(b.at) - toMs(a.at))[0];
}

/** A section's wax plan in kg: what somebody expects, else its wall over its area; undefined where neither is known. */
export function plannedWax(section: Section): Figure | undefined {
  if (section.expectedWaxKg !== null)
    return {
      value: section.expectedWaxKg,
      unit: 'kg',
      source: 'default',
      inWords: 'expected wax, entered by hand',
      inputs: {},
    };
  return section.areaCm2 === null ? undefined : waxFromWall(section.wallMm, section.areaCm2);
}

/** Everything known about one section's weight, planned, waxed and cast. */
export interface SectionWeights {
  readonly sectionId: Id;
  readonly plannedWax?: Figure;
  readonly plannedCast?: Figure;
  readonly wax?: Figure;
  /** What the wax says the casting will weigh. */
  readonly castFromWax?: Figure;
  readonly cast?: Figure;
  readonly deviation?: Deviation;
  readonly wall?: Figure;
}

const measured = (weight: Weight): Figure => ({
  value: weight.kg,
  unit: 'kg',
  plusMinus: weight.plusMinusKg,
  source: 'measured',
  inWords: `${weight.kind}, ${weight.at.slice(0, 10)}`,
  inputs: {},
});

/** A section's weights for a piece, from the cast that stands for it now. */
export function sectionWeights(index: ShopIndex, piece: Piece, section: Section, band: number): SectionWeights {
  const cast = currentCast(index, piece.id, section.id);
  return castWeights(index, section, cast?.id ?? '', band);
}

/** The weights of one cast, whatever its attempt. */
export function castWeights(index: ShopIndex, section: Section, castId: Id, band: number): SectionWeights {
  const alloy = alloyOf(index.work.get(section.workId)!.alloyId);
  const weights = index.shop.weights.filter((weight) => weight.castId === castId);
  const wax = weightThatCounts(weights.filter((weight) => weight.of === 'wax'));
  const cast = weightThatCounts(weights.filter((weight) => weight.of === 'cast'));
  const plan = plannedWax(section);
  return {
    sectionId: section.id,
    ...(plan ? { plannedWax: plan, plannedCast: castFromWax(plan.value, alloy) } : {}),
    ...(wax ? { wax: measured(wax), castFromWax: castFromWax(wax.kg, alloy) } : {}),
    ...(wax && plan ? { deviation: waxDeviation(wax.kg, plan.value, alloy, band) } : {}),
    ...(wax && section.areaCm2 !== null ? { wall: wallFromWax(wax.kg, section.areaCm2) } : {}),
    ...(cast ? { cast: measured(cast) } : {}),
  };
}

/** What a piece weighs, or will: each section's best figure added up; undefined where a section has none. */
export function pieceWeight(index: ShopIndex, piece: Piece, band: number): Figure | undefined {
  const finished = (index.stepsOf.get(piece.id) ?? [])
    .filter((step) => step.kind === 'final-inspection' && isClosed(step))
    .at(-1)?.readings['finishedKg'];
  if (typeof finished === 'number')
    return {
      value: finished,
      unit: 'kg',
      source: 'measured',
      inWords: 'weighed at the final inspection',
      inputs: {},
    };
  const best = (index.sectionsOf.get(piece.workId) ?? []).map((section) => {
    const weights = sectionWeights(index, piece, section, band);
    return { name: section.name, figure: weights.cast ?? weights.castFromWax ?? weights.plannedCast };
  });
  if (best.length === 0 || best.some(({ figure }) => !figure)) return undefined;
  const figures = best.map(({ figure }) => figure!);
  return {
    value: figures.reduce((sum, figure) => sum + figure.value, 0),
    unit: 'kg',
    plusMinus: figures.reduce((sum, figure) => sum + (figure.plusMinus ?? 0), 0),
    source: figures.every((figure) => figure.source === 'measured') ? 'measured' : 'computed',
    inWords: best.map(({ name, figure }) => `${name}: ${figure!.inWords}`).join(' · '),
    inputs: Object.fromEntries(best.map(({ name, figure }) => [`${name}, kg`, figure!.value])),
  };
}

/** What a tree takes, carries and weighs. */
export interface TreeFigures {
  readonly metal?: TreeMetal;
  readonly shell?: Figure;
  /** Wax and shell while dipping. */
  readonly dipping?: Lift;
  /** Shell and metal after the pour. */
  readonly poured?: Lift;
}

/** A tree's figures from its waxes, its bars and cup as joined, and its coats; empty where a wax has no weight at all. */
export function treeFigures(index: ShopIndex, treeId: Id, liftLimitKg: number): TreeFigures {
  const casts = castsOfTree(index, treeId);
  const tree = index.tree.get(treeId)!;
  const alloy = alloyOf(tree.alloyId);
  const waxes = casts.map((cast) => {
    const weighed = weightThatCounts(
      index.shop.weights.filter((weight) => weight.castId === cast.id && weight.of === 'wax'),
    );
    return weighed?.kg ?? plannedWax(index.section.get(cast.sectionId)!)?.value;
  });
  if (waxes.length === 0 || waxes.some((kg) => kg === undefined)) return {};
  const waxKg = waxes.reduce((sum: number, kg) => sum + kg!, 0);
  const join = (index.stepsOf.get(treeId) ?? []).find((step) => step.kind === 'join-tree' && isClosed(step));
  const bars = (join?.readings['bars'] ?? []) as Bars[];
  const metal = treeMetal({
    castsKg: chargeFromWax(waxKg, alloy).value,
    bars,
    cup: join?.readings['cup'] === false ? null : DEFAULT_CUP,
    densityGPerCm3: alloy.densityGPerCm3,
  });
  const areas = casts.map((cast) => index.section.get(cast.sectionId)!.areaCm2);
  if (tree.method === 'block' || areas.some((area) => area === null)) return { metal };
  const shell = shellWeight(
    areas.reduce((sum: number, area) => sum + area!, 0),
    coatCount(index, treeId),
  );
  const treeKg = join?.readings['treeKg'];
  return {
    metal,
    shell,
    dipping: lift({ wax: typeof treeKg === 'number' ? treeKg : waxKg, shell: shell.value }, liftLimitKg),
    poured: lift({ shell: shell.value, metal: metal.pourWeight.value }, liftLimitKg),
  };
}
