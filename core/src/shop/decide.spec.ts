import type { Shop } from '../records/shop.ts';
import { after, doingBy, said, told } from '../testing/doing.ts';
import { counter, openStep, play, playThrough, smallShop } from '../testing/play.ts';
import { inWords } from '../units/words.ts';
import { decide } from './decide.ts';
import { pieceDecisions } from './decisions.ts';
import { indexShop } from './index-shop.ts';

describe('deciding', () => {
  const newId = counter();
  const doing = doingBy(newId, { now: '2029-03-01T08:00:00.000Z' });
  const asks = (shop: Shop) => {
    const index = indexShop(shop);
    return index.shop.pieces.flatMap((piece) => pieceDecisions(index, piece, 0.1));
  };
  const answer = (shop: Shop, code: string) => {
    const [asked] = asks(shop);
    const step = shop.steps.find(({ id }) => id === asked!.stepId)!;
    return decide(indexShop(shop), step, { version: 1, answer: code, castId: asked!.castId }, doing);
  };

  /** A wax of 0.9 kg where 0.75 is planned: 20 % over. */
  const heavyWax = () => {
    const shop = playThrough(smallShop({}, newId), ['make-mould', 'pull'], newId);
    return play(shop, openStep(shop, 'chase-wax'), newId, { readings: { waxKg: 0.9 } });
  };
  const leaking = () => {
    const coats = Array.from({ length: 6 }, () => 'coat' as const);
    const kinds = ['make-mould', 'pull', 'chase-wax', 'join-tree', ...coats, 'fire'] as const;
    const shop = playThrough(smallShop({}, newId), kinds, newId);
    return play(shop, openStep(shop, 'leak-test'), newId, {
      outcome: 'patch',
      note: 'hairline',
      at: '2028-04-01T08:00:00.000Z',
    });
  };

  it('leaves a heavy wax as it is: asked no more, and who decided is kept', () => {
    const shop = heavyWax();
    expect(inWords(asks(shop)[0]!.text)).toContain('wax 20 % over: +1.3 kg bronze');
    const kept = after(shop, answer(shop, 'keep'));
    expect(asks(kept)).toEqual([]);
    expect(kept.steps.find(({ decided }) => decided)!.decided).toEqual({ answer: 'keep', by: 'p-1', at: doing.now });
    expect(told(shop, answer(shop, 'keep'))).toBe('Chase and weigh wax · OTT 1: decided, leave it so');
    expect(kept.steps.length).toBe(shop.steps.length);
  });

  it('has a wax mended and weighed again, or pulled anew', () => {
    const shop = heavyWax();
    const mended = after(shop, answer(shop, 'mend'));
    const again = openStep(mended, 'chase-wax');
    expect(again.insertedWhy).toBe('Mend and weigh again');
    expect(asks(mended)).toEqual([]);
    const anew = after(shop, answer(shop, 'recast'));
    expect(anew.casts.map(({ state, attempt }) => [state, attempt])).toEqual([
      ['lost', 1],
      ['planned', 2],
    ]);
  });

  it('casts a leaking shell again: the whole tree is lost, with the reason of the leak', () => {
    const shop = leaking();
    expect(inWords(asks(shop)[0]!.costs)).toMatch(/^cast again: about \d+ days, as it has taken so far$/);
    const anew = after(shop, answer(shop, 'recast'));
    expect(anew.trees[0]!.state).toBe('lost');
    expect(anew.casts[0]!.lostWhy).toBe('hairline');
    expect(asks(anew)).toEqual([]);
  });

  it('refuses what is no answer, and what asks nothing any more', () => {
    const shop = heavyWax();
    expect(said(answer(shop, 'sell'))).toEqual(['answer: is none of keep, mend, recast']);
    const kept = after(shop, answer(shop, 'keep'));
    const step = kept.steps.find(({ decided }) => decided)!;
    expect(said(decide(indexShop(kept), step, { version: 1, answer: 'mend' }, doing))[0]).toContain(
      'asks nothing any more',
    );
  });
});
