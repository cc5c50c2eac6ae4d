import * as fc from 'fast-check';
import { counter, play, smallShop, topologicalOrder } from '../testing/play.ts';
import type { Shop } from '../records/shop.ts';
import { indexShop } from '../shop/index-shop.ts';
import { kindOf } from '../shop/kinds.ts';
import { isClosed, isOpen } from '../records/step.ts';
import { applyOps } from '../records/shop.ts';
import { cancelPieceOps } from './cancel.ts';
import { castsOfTree, currentCast } from './shop-index.ts';
import { standings } from './standing.ts';
import { placeOf } from './where.ts';
import { addMinutes } from '../units/instant.ts';
import { START } from '../testing/play.ts';

/** A shop of one to three sections and pieces in any method and approval. */
const shops = fc.record({
  method: fc.constantFrom('shell' as const, 'block' as const, 'direct' as const),
  approval: fc.constantFrom('first' as const, 'each' as const, 'none' as const),
  sections: fc.integer({ min: 1, max: 3 }),
  pieces: fc.integer({ min: 1, max: 3 }),
  // Each number picks a step that can be done, an outcome, and whether casts of other trees are joined to it.
  moves: fc.array(fc.tuple(fc.nat(), fc.nat(), fc.boolean()), { minLength: 5, maxLength: 60 }),
});

function move(
  shop: Shop,
  [which, how, many]: readonly [number, number, boolean],
  newId: () => string,
  at: string,
): Shop {
  const index = indexShop(shop);
  const able = [...standings(index).values()].filter(
    (standing) => standing.waitsFor.length === 0 && standing.held.length === 0,
  );
  if (able.length === 0) return shop;
  if (how % 97 === 0) {
    const piece = shop.pieces.find((each) => each.state === 'in work');
    return piece ? applyOps(shop, cancelPieceOps(index, piece, at, newId)) : shop;
  }
  const { step } = able[which % able.length]!;
  const outcomes = kindOf(step.kind).outcomes;
  // Mostly done, so that the walk gets far; each seventh time something else.
  const outcome = outcomes[how % 7 === 0 ? how % outcomes.length : 0]!.code;
  const readings: Record<string, unknown> = {};
  if (step.kind === 'join-tree' && many) {
    const others = able
      .filter((standing) => standing.step.kind === 'join-tree')
      .flatMap((standing) => castsOfTree(index, standing.step.carrierId));
    readings['castIds'] = [...new Set([...castsOfTree(index, step.carrierId), ...others].map((cast) => cast.id))];
  }
  return play(shop, step, newId, { outcome, at, readings });
}

describe('any run of records', () => {
  it('never makes a circle, never moves what was done, and leaves no lost cast without a successor or a lost piece', () => {
    fc.assert(
      fc.property(shops, ({ method, approval, sections, pieces, moves }) => {
        const newId = counter();
        let shop = smallShop(
          { work: { method, approval }, sections: Array.from({ length: sections }, () => ({})), pieces },
          newId,
        );
        moves.forEach((each, i) => {
          const before = shop;
          shop = move(shop, each, newId, addMinutes(START, i * 3000));
          const after = new Map(shop.steps.map((step) => [step.id, step]));
          for (const step of before.steps) if (isClosed(step)) expect(after.get(step.id)).toBe(step);
        });
        expect(topologicalOrder(shop)).toBeDefined();
        const index = indexShop(shop);
        for (const cast of shop.casts.filter((each) => each.state === 'lost')) {
          const piece = index.piece.get(cast.pieceId)!;
          const followed = shop.casts.some(
            (each) => each.pieceId === cast.pieceId && each.sectionId === cast.sectionId && each.attempt > cast.attempt,
          );
          expect(followed || piece.state === 'lost' || piece.state === 'cancelled').toBeTrue();
        }
        for (const piece of shop.pieces.filter((each) => each.state === 'in work')) {
          for (const section of shop.sections) expect(currentCast(index, piece.id, section.id)).toBeDefined();
          // Work in hand always has a next step, in some room.
          expect(placeOf(index, piece).sections.every((place) => place.nextStepId !== null)).toBeTrue();
        }
        // Whatever is still open can be reached: some open step waits for nothing.
        const open = shop.steps.filter(isOpen);
        if (open.length > 0)
          expect([...standings(index).values()].some((standing) => standing.waitsFor.length === 0)).toBeTrue();
      }),
      { seed: 20270301, numRuns: 120 },
    );
  });
});
