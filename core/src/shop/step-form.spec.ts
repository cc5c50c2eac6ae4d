import { applyOps, update } from '../records/shop.ts';
import type { Shop } from '../records/shop.ts';
import type { Step } from '../records/step.ts';
import { counter, openStep, playThrough, smallShop } from '../testing/play.ts';
import { inWords } from '../units/words.ts';
import { indexShop } from './index-shop.ts';
import type { LastSaid } from './step-form.ts';
import { stepForm } from './step-form.ts';

const formOf = (shop: Shop, step: Step, last: LastSaid | null = null) =>
  stepForm(indexShop(shop), step, {
    now: '2029-03-01T08:00:00.000Z',
    people: new Map(),
    liftLimitKg: 25,
    heats: [],
    loads: [],
    earlierWaxes: [],
    returnsAtHandKg: 0,
    lots: [],
    pots: [],
    alsoTrees: [],
    last,
    learned: LEARNED,
  });
const MADE = ['make-mould'] as const;
const LEARNED = new Map([['chase-metal', { factor: 1.5, n: 7 }]]);

describe('the form of a step', () => {
  it('starts a pull with the one good mould, and asks where there is none or are two', () => {
    const newId = counter();
    const shop = playThrough(smallShop({}, newId), MADE, newId);
    const [mould] = shop.moulds;
    expect(formOf(shop, openStep(shop, 'pull')).starts).toEqual({ mouldId: mould!.id, wax: 'pattern' });
    const broken = applyOps(shop, [update('moulds', mould!.id, { state: 'in repair' })]);
    expect(formOf(broken, openStep(broken, 'pull')).starts['mouldId']).toBeUndefined();
    const two: Shop = { ...shop, moulds: [mould!, { ...mould!, id: 'second', number: 2 }] };
    expect(formOf(two, openStep(two, 'pull')).starts['mouldId']).toBeUndefined();
    expect(formOf(two, openStep(two, 'pull')).moulds.length).toBe(2);
  });

  it('offers what is measured and fills nothing in: the usual, or what was read last while that may still be so', () => {
    const newId = counter();
    const shop = playThrough(smallShop({}, newId), MADE, newId);
    const pull = openStep(shop, 'pull');
    const offered = (last: LastSaid | null) => {
      const { value, from } = formOf(shop, pull, last).ghosts['potC']!;
      return [value, inWords(from)];
    };
    expect(offered(null)).toEqual([82, 'usual']);
    expect(offered({ at: '2029-02-28T15:00:00.000Z', readings: { potC: 79 } })).toEqual([
      79,
      'last, 2029-02-28T15:00:00.000Z',
    ]);
    // A pot of the day before yesterday stands cold.
    expect(offered({ at: '2029-02-27T07:00:00.000Z', readings: { potC: 79 } })).toEqual([82, 'usual']);
    // What is seen or not is asked, not proposed.
    const chased = playThrough(shop, ['pull'], newId);
    expect(formOf(chased, openStep(chased, 'chase-wax')).starts).toEqual({});
  });

  it('starts face coats fine, then medium and coarse on the back-up, and the last one without stucco', () => {
    const newId = counter();
    let shop = playThrough(smallShop({}, newId), [...MADE, 'pull', 'chase-wax', 'join-tree'], newId);
    const starts: unknown[] = [];
    // Six coats for 200 mm of metal: two of face, two with medium stucco, one coarse, one to seal.
    for (let coat = 1; coat <= 6; coat++) {
      const { slurry, stucco } = formOf(shop, openStep(shop, 'coat')).starts;
      starts.push(`${String(slurry)} ${String(stucco)}`);
      shop = playThrough(shop, ['coat'], newId);
    }
    expect(starts).toEqual([
      'face fine',
      'face fine',
      'backup medium',
      'backup medium',
      'backup coarse',
      'backup none',
    ]);
  });

  it('says of the joining which casts are planned on the tree, with what their waxes weigh', () => {
    const newId = counter();
    const shop = playThrough(smallShop({ sections: [{}, {}] }, newId), [...MADE, 'pull', 'pull', 'chase-wax'], newId);
    const form = formOf(shop, openStep(shop, 'join-tree'));
    expect(form.starts['castIds']).toEqual(form.casts.filter(({ onTree }) => onTree).map(({ id }) => id));
    expect(form.casts.map(({ waxKg }) => waxKg)).toContain(0.75);
  });

  it('judges a wax by the density of the wax it is made of', () => {
    const newId = counter();
    const shop = playThrough(smallShop({ sections: [{ expectedWaxKg: null }] }, newId), [...MADE, 'pull'], newId);
    const chase = (from: Shop) => formOf(from, openStep(from, 'chase-wax'));
    const beeswax = applyOps(shop, [update('pulls', shop.pulls[0]!.id, { wax: 'beeswax' })]);
    expect([chase(shop).waxDensity, chase(beeswax).waxDensity]).toEqual([0.93, 0.96]);
    // The same wall over the same area takes more kilograms of the heavier wax.
    expect(chase(beeswax).expectedWaxKg! / chase(shop).expectedWaxKg!).toBeCloseTo(0.96 / 0.93, 9);
  });

  it('says how long it is planned for, by size and by what was logged, and the shop’s own figure before both', () => {
    const shop = smallShop({}, counter());
    const chase = openStep(shop, 'chase-metal');
    // 0.16 m² × 15 h/m² are 144 min; 0.75 kg of wax × 8.54 are 6.4 kg: 1.5 h × kg^⅔ are 310 min, which is more.
    expect(formOf(shop, chase).effort).toEqual({
      planned: 465,
      bySize: 310,
      learned: { factor: 1.5, n: 7 },
      isOwn: false,
    });
    const own = { ...shop, routeTimes: { 'chase-metal': { minutes: 600 } } };
    expect(formOf(own, chase).effort).toEqual(jasmine.objectContaining({ planned: 600, bySize: 310, isOwn: true }));
    // Whatever its size, a dip takes as long.
    expect(formOf(shop, openStep(shop, 'coat')).effort).toBeNull();
  });
});
