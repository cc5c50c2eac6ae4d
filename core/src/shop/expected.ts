import { alloyOf } from '../materials/alloys.ts';
import type { Id } from '../records/common.ts';
import type { Expectation } from '../records/expectation.ts';
import type { Step } from '../records/step.ts';
import { isClosed } from '../records/step.ts';
import { around } from '../route/doubts.ts';
import type { ShopIndex } from '../route/shop-index.ts';
import { castsOfTree } from '../route/shop-index.ts';
import { spanInWords } from '../units/instant.ts';
import { kg, quantity } from '../units/quantity.ts';
import { median } from '../units/median.ts';
import type { Text } from '../units/words.ts';
import { say } from '../units/words.ts';
import { castFromWax } from '../wax/bronze-from-wax.ts';
import { plannedWax } from '../wax/planned-wax.ts';
import { countingWeight, ownFactorOfCast, waxDensityOfCast } from './cast-weights.ts';
import { minutesOf } from './minutes.ts';
import { pieceWeight } from './piece-weight.ts';

/** Everything that a step's readings are likely to be: what its room knows, and what other rooms worked out before it. */
export const expectedOf = (index: ShopIndex, step: Step): Expectation[] => [
  ...(index.kind(step).expects?.(index, step) ?? []),
  ...weightsOf(index, step),
  ...hoursOf(index, step),
];

const near = (key: string, value: number, from: Text, of?: Id): Expectation => ({
  key,
  ...(of === undefined ? {} : { of }),
  ...around(value),
  from,
});

/** Wax against its plan, a cast against its wax, a finished piece against its casts: each by the reading in kilograms. */
function weightsOf(index: ShopIndex, step: Step): Expectation[] {
  const { weighs, readings } = index.kind(step);
  const key = readings.find(
    ({ unit, kind }) => unit === 'kg' && kind === (weighs === 'cast' ? 'perCast' : 'number'),
  )?.key;
  if (!weighs || key === undefined) return [];
  if (weighs === 'cast') return castsOfTree(index, step.carrierId).flatMap(({ id }) => ofCast(index, id, key));
  if (weighs === 'wax') return ofWax(index, step.carrierId, key);
  const piece = index.piece.get(step.carrierId);
  const weight = piece && pieceWeight(index, piece, 0);
  return weight ? [near(key, weight.value, say`its casts come to ${kg(weight.value)}`)] : [];
}

/** What a wax should weigh: as planned for its section, else as the waxes of the same section before it. */
function ofWax(index: ShopIndex, castId: Id, key: string): Expectation[] {
  const section = index.section.get(index.cast.get(castId)?.sectionId ?? '');
  if (!section) return [];
  const plan = plannedWax(section, waxDensityOfCast(index, castId))?.value;
  if (plan !== undefined) return [near(key, plan, say`${kg(plan, 3)} is planned`)];
  const before = index.shop.casts
    .filter(({ id, sectionId }) => sectionId === section.id && id !== castId)
    .flatMap(({ id }) => countingWeight(index, id, 'wax')?.kg ?? []);
  const usual = median(before);
  return usual === undefined ? [] : [near(key, usual, say`waxes of it weighed ${kg(usual, 3)} before`)];
}

function ofCast(index: ShopIndex, castId: Id, key: string): Expectation[] {
  const section = index.section.get(index.cast.get(castId)!.sectionId)!;
  const density = waxDensityOfCast(index, castId);
  const waxKg = countingWeight(index, castId, 'wax')?.kg ?? plannedWax(section, density)?.value;
  if (waxKg === undefined) return [];
  const { value } = castFromWax(
    waxKg,
    alloyOf(index.work.get(section.workId)!.alloyId),
    density,
    ownFactorOfCast(index, castId),
  );
  return [near(key, value, say`its wax says ${kg(value)}`, castId)];
}

/** Hours of the same work on other pieces; before there are any, of the estimate, which is asked about more widely. */
const ESTIMATE_FACTOR = 6;

function hoursOf(index: ShopIndex, step: Step): Expectation[] {
  const kind = index.kind(step);
  const key = kind.readings.find(({ unit, kind: what }) => unit === 'h' && what === 'number')?.key;
  if (key === undefined || !kind.effort) return [];
  const workId = index.piece.get(step.carrierId)?.workId;
  const logged = index.shop.steps.flatMap((each) => {
    const hours = each.readings[key];
    const same = each.kind === step.kind && each.sectionId === step.sectionId && isClosed(each);
    return same && typeof hours === 'number' && index.piece.get(each.carrierId)?.workId === workId ? [hours] : [];
  });
  const usual = median(logged);
  if (usual !== undefined) return [near(key, usual, say`other pieces took ${quantity(usual, 'h', 1)}`)];
  const minutes = minutesOf(index, step);
  return [{ key, ...around(minutes / 60, ESTIMATE_FACTOR), from: say`it is planned with ${spanInWords(minutes)}` }];
}
