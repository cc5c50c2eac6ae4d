import { applyOps, update } from '../records/shop.ts';
import type { Shop } from '../records/shop.ts';
import type { Step } from '../records/step.ts';
import { counter, openStep, playThrough, smallShop } from '../testing/play.ts';
import { indexShop } from './index-shop.ts';
import { stepForm } from './step-form.ts';

const formOf = (shop: Shop, step: Step) =>
  stepForm(indexShop(shop), step, {
    now: '2029-03-01T08:00:00.000Z',
    people: new Map(),
    liftLimitKg: 25,
    heats: [],
    loads: [],
    earlierWaxes: [],
    returnsAtHandKg: 0,
    alsoTrees: [],
  });
const MADE = ['make-mould'] as const;

describe('the form of a step', () => {
  it('starts a pull with the one good mould, and asks where there is none or are two', () => {
    const newId = counter();
    const shop = playThrough(smallShop({}, newId), MADE, newId);
    const [mould] = shop.moulds;
    expect(formOf(shop, openStep(shop, 'pull')).starts).toEqual({ mouldId: mould!.id, wax: 'pattern', potC: 82 });
    const broken = applyOps(shop, [update('moulds', mould!.id, { state: 'in repair' })]);
    expect(formOf(broken, openStep(broken, 'pull')).starts['mouldId']).toBeUndefined();
    const two: Shop = { ...shop, moulds: [mould!, { ...mould!, id: 'second', number: 2 }] };
    expect(formOf(two, openStep(two, 'pull')).starts['mouldId']).toBeUndefined();
    expect(formOf(two, openStep(two, 'pull')).moulds.length).toBe(2);
  });

  it('starts face coats fine, then medium and coarse on the back-up, and the last one without stucco', () => {
    const newId = counter();
    let shop = playThrough(smallShop({}, newId), [...MADE, 'pull', 'chase-wax', 'join-tree'], newId);
    const starts: unknown[] = [];
    // Six coats for 200 mm of metal: two of face, two with medium stucco, one coarse, one to seal.
    for (let coat = 1; coat <= 6; coat++) {
      starts.push(Object.values(formOf(shop, openStep(shop, 'coat')).starts).join(' '));
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
});
