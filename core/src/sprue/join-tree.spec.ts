import { judge } from '../route/judge.ts';
import { linksOf } from '../route/links.ts';
import { castsOfTree } from '../route/shop-index.ts';
import type { Shop } from '../records/shop.ts';
import { applyOps, update } from '../records/shop.ts';
import { indexShop } from '../shop/index-shop.ts';
import { readingsShown } from '../shop/readings.ts';
import { START, closing, counter, openStep, play, playThrough, smallShop } from '../testing/play.ts';
import { addMinutes } from '../units/instant.ts';
import { inWords } from '../units/words.ts';

const LATER = addMinutes(START, 300 * 1440);

describe('joining a tree', () => {
  /** Two casts of one work, chased and weighed. */
  const waxes = () => {
    const newId = counter();
    const way = ['make-mould', 'pull', 'pull', 'chase-wax', 'chase-wax'];
    return { newId, shop: playThrough(smallShop({ pieces: 2 }, newId), way, newId) };
  };
  const refusals = (shop: Shop, castIds: readonly string[]) => {
    const index = indexShop(shop);
    const said = closing('done', LATER, { readings: { castIds, bars: [] } });
    return judge(index, linksOf(index), openStep(shop, 'join-tree'), said).map(
      ({ rule, message }) => `${rule}: ${inWords(message)}`,
    );
  };

  it('takes along another chased wax, which leaves the tree it was planned on', () => {
    const { newId, shop } = waxes();
    const ids = shop.casts.map(({ id }) => id);
    expect(refusals(shop, ids)).toEqual([]);
    const step = openStep(shop, 'join-tree');
    const now = play(shop, step, newId, { at: LATER, readings: { castIds: ids, bars: [] } });
    expect(castsOfTree(indexShop(now), step.carrierId).map(({ id }) => id)).toEqual(ids);
    expect(now.trees.find(({ id }) => id !== step.carrierId)!.state).toBe('void');
    // Which casts hang on it is said by the tree itself; the step keeps bars and cup.
    const kept = now.steps.find(({ id }) => id === step.id)!;
    expect(Object.keys(kept.readings).sort()).toEqual(['bars']);
    expect(readingsShown(indexShop(now), kept)['castIds']).toEqual(ids);
  });

  it('is refused without a cast, with one twice, and with one that was lost', () => {
    const { shop } = waxes();
    const [one] = shop.casts.map(({ id }) => id);
    expect(refusals(shop, [])).toEqual(['casts: A tree needs at least one cast.']);
    expect(refusals(shop, [one!, one!])).toEqual(['casts: A cast is on the list twice.']);
    const lost = applyOps(shop, [update('casts', one!, { state: 'lost', lostWhy: 'dropped' })]);
    expect(refusals(lost, [one!])).toContain(jasmine.stringContaining('a lost cast is not used again'));
  });

  it('takes one alloy and one way of investing', () => {
    const { newId, shop } = waxes();
    const other = playThrough(
      smallShop({ work: { alloyId: 'C90500', code: 'RAK' } }, newId, shop),
      ['make-mould'],
      newId,
    );
    const foreign = other.casts.at(-1)!.id;
    expect(refusals(other, [foreign])).toContain(jasmine.stringContaining('is of another alloy: one tree, one alloy'));
    const block = playThrough(
      smallShop({ work: { method: 'block', code: 'TID' } }, newId, shop),
      ['make-mould'],
      newId,
    );
    expect(refusals(block, [block.casts.at(-1)!.id])).toContain(jasmine.stringContaining('invested in another way'));
  });

  it('wants every wax chased and weighed, unless somebody decides otherwise', () => {
    const newId = counter();
    const shop = playThrough(smallShop({ pieces: 2 }, newId), ['make-mould', 'pull', 'chase-wax', 'pull'], newId);
    expect(
      refusals(
        shop,
        shop.casts.map(({ id }) => id),
      ),
    ).toContain(jasmine.stringContaining('is not chased and weighed yet'));
  });
});
