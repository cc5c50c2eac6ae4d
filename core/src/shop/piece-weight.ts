import { isClosed } from '../records/step.ts';
import type { Piece } from '../records/work.ts';
import type { ShopIndex } from '../route/shop-index.ts';
import type { Figure } from '../units/figure.ts';
import { kg } from '../units/quantity.ts';
import { joined, say } from '../units/words.ts';
import { sectionWeights } from './cast-weights.ts';

/** What a piece weighs, or will: each section's best figure added up; undefined where a section has none. */
export function pieceWeight(index: ShopIndex, piece: Piece, band: number): Figure | undefined {
  const finished = (index.stepsOf.get(piece.id) ?? [])
    .filter((step) => index.kind(step).weighs === 'piece' && isClosed(step))
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
    inWords: joined(
      best.map(({ name, figure }) => {
        const how = figure!.inWords;
        return typeof how === 'string' ? `${name}: ${how}` : say`${name}: ${how}`;
      }),
      ' · ',
    ),
    inputs: Object.fromEntries(best.map(({ name, figure }) => [name, kg(figure!.value, 2)])),
  };
}
