import { indexShop } from '../shop/index-shop.ts';
import { judge } from '../route/judge.ts';
import { linksOf } from '../route/links.ts';
import type { OpenItem } from '../records/chasing.ts';
import { applyOps, insert } from '../records/shop.ts';
import { START, closing, counter, openStep, play, playThrough, smallShop } from '../testing/play.ts';
import { addMinutes } from '../units/instant.ts';
import { inWords } from '../units/words.ts';

const METAL = [
  ...['make-mould', 'pull', 'chase-wax', 'join-tree', 'coat', 'coat', 'coat', 'coat', 'coat', 'coat'],
  ...['fire', 'leak-test', 'pour', 'knock-out', 'inspect', 'chase-metal'],
];
const LATER = addMinutes(START, 700 * 1440);

describe('the patina', () => {
  const chased = () => {
    const newId = counter();
    return { newId, shop: playThrough(smallShop({}, newId), METAL, newId) };
  };

  it('waits until what was cut out is back: a window that is open holds it', () => {
    const { newId, shop } = chased();
    const item: OpenItem = {
      ...{ id: newId(), castId: shop.casts[0]!.id, kind: 'window', what: 'belly, 60 mm' },
      ...{ openedAt: START, closedAt: null, closedHow: null, closedNote: '', version: 1 },
    };
    const open = applyOps(shop, [insert('openItems', item)]);
    const say = (from: typeof shop) => {
      const index = indexShop(from);
      const said = closing('done', LATER, { readings: { recipe: 'ferric, hot' } });
      return judge(index, linksOf(index), openStep(from, 'patina'), said).map(({ message }) => inWords(message));
    };
    expect(say(shop)).toEqual([]);
    expect(say(open).join(' ')).toContain('belly, 60 mm');
  });

  it('that is stripped is done again, and a final inspection sends back to the room it names', () => {
    const { newId, shop } = chased();
    let now = play(shop, openStep(shop, 'patina'), newId, { at: LATER, outcome: 'strip', note: 'blotched' });
    expect(openStep(now, 'patina').insertedWhy).toBe('blotched');
    now = playThrough(now, ['patina', 'wax-buff'], newId);
    const final = openStep(now, 'final-inspection');
    now = play(now, final, newId, { at: addMinutes(LATER, 9000), outcome: 'to chasing', note: 'seam shows' });
    const grown = now.steps.filter(({ insertedWhy }) => insertedWhy === 'seam shows').map(({ kind }) => kind);
    expect(grown).toEqual(['chase-metal', 'patina', 'wax-buff', 'final-inspection']);
  });

  it('ends in a piece that is out of the house', () => {
    const { newId, shop } = chased();
    const now = playThrough(shop, ['patina', 'wax-buff', 'final-inspection', 'deliver'], newId);
    expect(now.pieces[0]!.state).toBe('delivered');
    expect(now.pieces[0]!.deliveredAt).toBe(now.steps.find(({ kind }) => kind === 'deliver')!.endedAt);
  });
});
