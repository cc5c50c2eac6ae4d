import { wetSince } from '../route/wet.ts';
import { indexShop } from '../shop/index-shop.ts';
import { START, counter, openStep, play, playThrough, smallShop } from '../testing/play.ts';
import { addMinutes } from '../units/instant.ts';

const UP_TO_THE_TEST = [
  'make-mould',
  'pull',
  'chase-wax',
  'join-tree',
  'coat',
  'coat',
  'coat',
  'coat',
  'coat',
  'coat',
  'fire',
];
const LATER = addMinutes(START, 500 * 1440);

describe('a leak test', () => {
  const fired = () => {
    const newId = counter();
    const shop = playThrough(smallShop({}, newId), UP_TO_THE_TEST, newId);
    return { newId, shop, test: openStep(shop, 'leak-test') };
  };
  const open = (shop: ReturnType<typeof fired>['shop'], treeId: string) =>
    shop.steps.filter((step) => step.carrierId === treeId && step.state === 'planned').map(({ kind }) => kind);

  it('by light or air leaves the shell dry; nothing grows', () => {
    const { newId, shop, test } = fired();
    const now = play(shop, test, newId, { at: LATER, readings: { how: 'air' } });
    expect(wetSince(indexShop(now), test.carrierId)).toBeNull();
    expect(open(now, test.carrierId)).toEqual(['pour', 'knock-out']);
  });

  it('by water leaves it wet until it was dried, and a drying grows', () => {
    const { newId, shop, test } = fired();
    const now = play(shop, test, newId, { at: LATER, readings: { how: 'water' } });
    expect(wetSince(indexShop(now), test.carrierId)).toBe(LATER);
    expect(open(now, test.carrierId)).toContain('dry');
    const dried = play(now, openStep(now, 'dry'), newId, { at: addMinutes(LATER, 1440) });
    expect(wetSince(indexShop(dried), test.carrierId)).toBeNull();
  });

  it('that leaks grows a patch, a firing and another test, by what was seen', () => {
    const { newId, shop, test } = fired();
    const now = play(shop, test, newId, { at: LATER, outcome: 'patch', note: 'hairline at the tip' });
    const grown = now.steps.filter(({ insertedWhy }) => insertedWhy === 'hairline at the tip');
    expect(grown.map(({ kind }) => kind)).toEqual(['patch', 'refire', 'leak-test']);
  });

  it('that ends the shell begins its cast again from the wax', () => {
    const { newId, shop, test } = fired();
    const now = play(shop, test, newId, { at: LATER, outcome: 'lost', note: 'fell apart' });
    expect(now.casts.map(({ state, attempt }) => [state, attempt])).toEqual([
      ['lost', 1],
      ['planned', 2],
    ]);
    expect(openStep(now, 'pull').carrierId).toBe(now.casts[1]!.id);
  });
});
