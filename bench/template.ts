// One work with its ten pieces, carried through its route in memory by the same rules that a record follows.
import type { Id, Instant, Shop, Step } from '@kalvet/core';
import { KINDS, addMinutes, indexShop, piecesOfStep, standings } from '@kalvet/core';
import { counter, openStep, play, smallShop } from '../core/src/testing/play.ts';

export const PIECES_A_WORK = 10;
/** Of each work's pieces so many are out already; the rest are in work. */
export const DELIVERED_A_WORK = 8;
const SECTIONS = 3;
/** A section so high wants ten coats, so that a piece of three sections has about sixty steps. */
const HEIGHT_MM = 600;
const STEP_MINUTES = 11 * 60;

/** Ids in a template look like this, so that each copy can be given its own. */
export const TEMPLATE_ID = /tpl-\d{6}/g;

/** The next step of a piece that can be done, the room furthest behind first, as a shop would. */
function nextOf(shop: Shop, pieceId: Id): Step | undefined {
  const index = indexShop(shop);
  return [...standings(index).values()]
    .filter(({ waitsFor, held }) => waitsFor.length === 0 && held.length === 0)
    .map(({ step }) => step)
    .filter((step) => piecesOfStep(index, step).includes(pieceId))
    .sort((a, b) => placeOf(a) - placeOf(b) || a.sequence - b.sequence)[0];
}

const placeOf = ({ kind }: Step): number => KINDS.findIndex(({ code }) => code === kind);

/** Carries a piece so many steps on, the last one done at `end`. */
function carry(from: Shop, piece: number, steps: number, end: Instant, newId: () => Id): Shop {
  let shop = from;
  for (let k = 0; k < steps; k++) {
    const step = nextOf(shop, shop.pieces[piece]!.id);
    if (!step) break;
    shop = play(shop, step, newId, { at: addMinutes(end, -(steps - 1 - k) * STEP_MINUTES), readings: weights(step) });
  }
  return shop;
}

/** Figures of this section's size in the place of the spec's. */
const weights = (step: Step): Record<string, unknown> => (step.kind === 'chase-wax' ? { waxKg: 1.6 } : {});

/** Works alike but for how far their pieces in work have come: `count` of them. */
export function templates(count: number, now: Instant): Shop[] {
  const newId = counter('tpl');
  const section = { metalHeightMm: HEIGHT_MM, expectedWaxKg: 1.6, areaCm2: 3600 };
  let shop = smallShop(
    {
      sections: Array.from({ length: SECTIONS }, (_, i) => ({
        ...section,
        name: `Part ${i + 1}`,
        seamM: i === 0 ? null : 0.4,
      })),
      pieces: PIECES_A_WORK,
    },
    newId,
  );
  const day = (ago: number) => addMinutes(now, -ago * 1440);
  shop = play(shop, openStep(shop, 'make-mould'), newId, { at: day(800), readings: { lifePulls: 200 } });
  for (let piece = 0; piece < DELIVERED_A_WORK; piece++) shop = carry(shop, piece, 1000, day(60 + piece * 60), newId);
  const most = shop.steps.length / PIECES_A_WORK;
  return Array.from({ length: count }, (_, i) => {
    // Spread over the whole route, so that every room holds its share.
    const far = (share: number) => Math.max(1, Math.round(most * share));
    const one = carry(shop, DELIVERED_A_WORK, far(((i + 0.5) / count) * 0.95), addMinutes(now, -5 * 60), newId);
    return carry(
      one,
      DELIVERED_A_WORK + 1,
      far((((i * 7) % count) + 0.5) / count / 1.3),
      addMinutes(now, -4 * 60),
      newId,
    );
  });
}
