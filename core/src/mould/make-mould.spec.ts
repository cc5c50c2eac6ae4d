import { indexShop } from '../shop/index-shop.ts';
import { mouldUse } from '../shop/decisions.ts';
import { readingsShown } from '../shop/readings.ts';
import { counter, openStep, play, playThrough, smallShop } from '../testing/play.ts';

describe('a mould', () => {
  it('is good once it is made, its life a fact of its own', () => {
    const newId = counter();
    const shop = smallShop({ pieces: 2 }, newId);
    const made = play(shop, openStep(shop, 'make-mould'), newId, { readings: { lifePulls: 60, parts: 4 } });
    expect(made.moulds[0]).toEqual(jasmine.objectContaining({ state: 'good', lifePulls: 60 }));
    const step = made.steps.find(({ kind }) => kind === 'make-mould')!;
    expect(step.readings).toEqual({ parts: 4 });
    expect(readingsShown(indexShop(made), step)).toEqual({ parts: 4, lifePulls: 60 });
  });

  it('that was not good is made again, and makes no wax before', () => {
    const newId = counter();
    const shop = smallShop({}, newId);
    const again = play(shop, openStep(shop, 'make-mould'), newId, { outcome: 'remake', note: 'air at the ear' });
    expect([again.moulds[0]!.state, openStep(again, 'make-mould').insertedWhy]).toEqual(['making', 'air at the ear']);
  });

  it('counts every pull on its life, the spoilt one too, and owes those that are still to be made', () => {
    const newId = counter();
    let shop = playThrough(smallShop({ pieces: 3 }, newId), ['make-mould', 'pull'], newId);
    shop = play(shop, openStep(shop, 'pull'), newId, { outcome: 'lost', note: 'torn', at: '2029-01-01T08:00:00.000Z' });
    // One good, one spoilt: its cast is made again, so that two are owed.
    expect(mouldUse(indexShop(shop), shop.moulds[0]!)).toEqual(jasmine.objectContaining({ used: 2, owed: 2 }));
  });
});
