import { alloyOf } from '../materials/alloys.ts';
import { PATTERN_WAX, waxDensityOf } from '../materials/waxes.ts';
import type { Id } from '../records/common.ts';
import type { TakenFigure } from '../records/settings.ts';
import { isClosed } from '../records/step.ts';
import type { Weight } from '../records/wax.ts';
import type { Piece, Section } from '../records/work.ts';
import { chainOf, sidesOf } from '../route/chain.ts';
import type { ShopIndex } from '../route/shop-index.ts';
import { currentCast, pullOf } from '../route/shop-index.ts';
import type { Figure } from '../units/figure.ts';
import type { Instant } from '../units/instant.ts';
import { onDay, say } from '../units/words.ts';
import type { Deviation } from '../wax/bronze-from-wax.ts';
import { castFromWax, waxDeviation } from '../wax/bronze-from-wax.ts';
import { factorKey } from '../wax/own-factor.ts';
import { plannedWax } from '../wax/planned-wax.ts';
import { wallOfWax } from '../wax/section-wall.ts';
import { weightThatCounts } from '../wax/weight-that-counts.ts';

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
  inWords: say`${weight.kind}, ${onDay(weight.at.slice(0, 10))}`,
  inputs: {},
});

/** When a cast was last changed by work that weighing does not follow by itself: rework, or work done elsewhere. */
function changedAt(index: ShopIndex, castId: Id, of: 'wax' | 'cast'): Instant | null {
  const steps = sidesOf(index, castId)[of === 'wax' ? 'wax' : 'metal'];
  return steps
    .filter((step) => isClosed(step) && step.state !== 'skipped' && index.kind(step).alters)
    .reduce<Instant | null>((last, { endedAt }) => (endedAt !== null && endedAt > (last ?? '') ? endedAt : last), null);
}

/** The weight of a cast that counts now, as wax or as metal. */
export const countingWeight = (index: ShopIndex, castId: Id, of: 'wax' | 'cast'): Weight | undefined =>
  weightThatCounts(
    (index.weightsOf.get(castId) ?? []).filter((weight) => weight.of === of),
    changedAt(index, castId, of),
  );

/** The wax that a cast is made of: of its pull, or what it was modelled in; pattern wax where nobody said. */
export function waxOfCast(index: ShopIndex, castId: Id): string {
  const pulled = pullOf(index, castId)?.wax;
  if (pulled) return pulled;
  const modelled = chainOf(index, castId).find((step) => index.kind(step).beginsWax)?.readings['wax'];
  return typeof modelled === 'string' ? modelled : PATTERN_WAX;
}

/** Its density, g/cm³. */
export const waxDensityOfCast = (index: ShopIndex, castId: Id): number => waxDensityOf(waxOfCast(index, castId));

/** The shop's own kilograms of cast for one of wax, where it has taken a figure over for the cast's alloy and wax. */
export function ownFactorOfCast(index: ShopIndex, castId: Id): TakenFigure | undefined {
  const section = index.section.get(index.cast.get(castId)?.sectionId ?? '');
  const work = section && index.work.get(section.workId);
  return work && index.shop.castFactors?.[factorKey(work.alloyId, waxOfCast(index, castId))];
}

/** A section's weights for a piece, from the cast that stands for it now. */
export function sectionWeights(index: ShopIndex, piece: Piece, section: Section, band: number): SectionWeights {
  return castWeights(index, section, currentCast(index, piece.id, section.id)?.id ?? '', band);
}

/** The weights of one cast, whatever its attempt. */
export function castWeights(index: ShopIndex, section: Section, castId: Id, band: number): SectionWeights {
  const alloy = alloyOf(index.work.get(section.workId)!.alloyId);
  const density = waxDensityOfCast(index, castId);
  const wax = countingWeight(index, castId, 'wax');
  const cast = countingWeight(index, castId, 'cast');
  const own = ownFactorOfCast(index, castId);
  const plan = plannedWax(section, density);
  const wall = wax && wallOfWax(wax.kg, section, density);
  return {
    sectionId: section.id,
    ...(plan ? { plannedWax: plan, plannedCast: castFromWax(plan.value, alloy, density, own) } : {}),
    ...(wax ? { wax: measured(wax), castFromWax: castFromWax(wax.kg, alloy, density, own) } : {}),
    ...(wax && plan ? { deviation: waxDeviation(wax.kg, plan.value, alloy, band, density, own) } : {}),
    ...(wall ? { wall } : {}),
    ...(cast ? { cast: measured(cast) } : {}),
  };
}
