import { insertStep } from '../route/insert-step.ts';
import { roomOfStep } from '../route/standing.ts';
import { countingWeight } from '../shop/cast-weights.ts';
import { indexShop } from '../shop/index-shop.ts';
import { applyOps } from '../records/shop.ts';
import { counter, openStep, play, playThrough, smallShop } from '../testing/play.ts';

describe('work that the route did not foresee', () => {
  const chased = () => {
    const newId = counter();
    return { newId, shop: playThrough(smallShop({}, newId), ['make-mould', 'pull', 'chase-wax'], newId) };
  };

  it('on a wax makes the weight from before no longer count', () => {
    const { newId, shop } = chased();
    const castId = shop.casts[0]!.id;
    expect(countingWeight(indexShop(shop), castId, 'wax')?.kg).toBe(0.75);
    const put = applyOps(shop, insertStep(indexShop(shop), castId, 'rework', 'ear sharper', newId)!);
    const step = openStep(put, 'rework');
    expect([step.insertedWhy, roomOfStep(indexShop(put), step)]).toEqual(['ear sharper', 'wax']);
    const done = play(put, step, newId, { at: '2029-01-01T08:00:00.000Z' });
    expect(countingWeight(indexShop(done), castId, 'wax')).toBeUndefined();
  });
});
