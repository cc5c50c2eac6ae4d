import { applyOps } from '../records/shop.ts';
import { closeStep } from '../route/close-step.ts';
import { indexShop } from '../shop/index-shop.ts';
import { countingWeight } from '../shop/cast-weights.ts';
import { readingsShown } from '../shop/readings.ts';
import { START, closing, counter, openStep, playThrough, smallShop } from '../testing/play.ts';
import { addMinutes } from '../units/instant.ts';

const POURED = [
  ...['make-mould', 'pull', 'chase-wax', 'join-tree', 'coat', 'coat', 'coat', 'coat', 'coat', 'coat'],
  ...['fire', 'leak-test', 'pour'],
];
const LATER = addMinutes(START, 500 * 1440);

describe('the knock-out', () => {
  it('weighs each cast into a row of its own, and keeps the returns', () => {
    const newId = counter();
    const shop = playThrough(smallShop({}, newId), POURED, newId);
    const step = openStep(shop, 'knock-out');
    const castId = shop.casts[0]!.id;
    const said = closing('done', LATER, { readings: { castKg: { [castId]: 6.42 }, returnsKg: 4.1 } });
    const now = applyOps(shop, closeStep(indexShop(shop), step, said, newId));
    expect(countingWeight(indexShop(now), castId, 'cast')?.kg).toBe(6.42);
    const kept = now.steps.find(({ id }) => id === step.id)!;
    expect(kept.readings).toEqual({ returnsKg: 4.1 });
    expect(readingsShown(indexShop(now), kept)).toEqual({ castKg: { [castId]: 6.42 }, returnsKg: 4.1 });
    expect(now.trees[0]!.state).toBe('knocked out');
  });
});
