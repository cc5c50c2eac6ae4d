import { linksOf } from '../route/links.ts';
import { indexShop } from '../shop/index-shop.ts';
import { stepName } from '../route/labels.ts';
import { counter, openStep, play, playThrough, smallShop } from '../testing/play.ts';

const JOINED = ['make-mould', 'pull', 'chase-wax', 'join-tree'];

describe('the coats of a shell', () => {
  const joined = (section = {}) => {
    const newId = counter();
    return { newId, shop: playThrough(smallShop({ sections: [section] }, newId), JOINED, newId) };
  };
  const waits = (shop: ReturnType<typeof joined>['shop']) =>
    linksOf(indexShop(shop))
      .filter(({ from, to }) => from.kind === 'coat' && (to.kind === 'coat' || to.kind === 'fire'))
      .map(({ minLag }) => minLag / 60);

  it('dry three hours after a face coat and four after the others; a deep hollow takes three times as long', () => {
    expect(waits(joined().shop)).toEqual([3, 3, 4, 4, 4, 4]);
    expect(waits(joined({ deep: true }).shop)).toEqual([9, 9, 12, 12, 12, 12]);
  });

  it('are called by their number, the last one the seal coat', () => {
    const { shop } = joined();
    const names = shop.steps.filter(({ kind }) => kind === 'coat').map((step) => stepName(indexShop(shop), step));
    expect([names[0], names.at(-1)]).toEqual(['Dip coat 1 of 6', 'Seal coat 6']);
  });

  it('that are not good are dipped again, with the same number', () => {
    const { newId, shop } = joined();
    const first = openStep(shop, 'coat');
    const now = play(shop, first, newId, { outcome: 'again', note: 'bare at the ear' });
    const again = now.steps.find(({ insertedAfter }) => insertedAfter === first.id)!;
    expect([again.kind, again.sequence, stepName(indexShop(now), again)]).toEqual([
      'coat',
      1,
      'Dip coat 1 of 6, again',
    ]);
  });
});
