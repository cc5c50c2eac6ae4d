// What the shop's own records say of its figures: the handbook's numbers, and which cases count.
import { DEFAULT_SETTINGS } from '../records/settings.ts';
import type { Shop } from '../records/shop.ts';
import type { Weight } from '../records/wax.ts';
import { indexShop } from '../shop/index-shop.ts';
import { castWeights } from '../shop/cast-weights.ts';
import { START, counter, openStep, play, playThrough, smallShop } from '../testing/play.ts';
import { addMinutes } from '../units/instant.ts';
import { inWords } from '../units/words.ts';
import { castFromWax } from '../wax/bronze-from-wax.ts';
import { alloyOf } from '../materials/alloys.ts';
import { factorOfPairs, factorWith } from '../wax/own-factor.ts';
import { castPairs } from './cast-pairs.ts';
import { firstPass } from './first-pass.ts';
import { learnedLines } from './learned-lines.ts';
import { passedRooms } from './room-yields.ts';

const SILICON = alloyOf('C87300');
const UNTIL_POUR = ['make-mould', 'pull', 'chase-wax', 'join-tree'] as const;

describe('the shop’s own cast factor', () => {
  it('is the median of cast ÷ wax with a robust spread, and counts n : 4 until it has six casts', () => {
    const own = factorOfPairs([8.43, 8.46, 8.5, 8.51, 8.53, 8.56].map((castKg) => ({ waxKg: 1, castKg })))!;
    expect([own.value.toFixed(3), own.spread.toFixed(3), own.n]).toEqual(['8.505', '0.052', 6]);
    expect(factorWith(8.54, own)).toBe(own.value);
    // Three casts of 8.40 against four of 8.54: (25.2 + 34.16) ÷ 7.
    expect(factorWith(8.54, { value: 8.4, n: 3 })).toBeCloseTo(8.48, 9);
    expect(factorWith(8.54, undefined)).toBe(8.54);
    expect(() => factorOfPairs([{ waxKg: 0, castKg: 8 }])).toThrowError(RangeError, /wax/);
  });

  it('takes the formula’s place in what a wax will weigh, with its own spread, and says of how many casts it is', () => {
    const own = { value: 8.4, spread: 0.084, n: 12, at: START };
    const figure = castFromWax(2, SILICON, 0.93, own);
    expect(figure.value).toBeCloseTo(16.8, 9);
    expect(figure.plusMinus).toBeCloseTo(0.168, 9);
    expect(inWords(figure.inWords)).toContain('of 12 casts of the shop');
    const shop = playThrough(smallShop({}, counter()), ['make-mould', 'pull'], counter('x'));
    const [cast] = shop.casts;
    const weighed = (castFactors?: Shop['castFactors']) =>
      castWeights(indexShop({ ...shop, ...(castFactors ? { castFactors } : {}) }), shop.sections[0]!, cast!.id, 0.1)
        .plannedCast!.value;
    expect(weighed({ 'C87300 pattern': own }) / weighed()).toBeCloseTo(8.4 / 8.5385, 4);
    expect(weighed({ 'C90500 pattern': own })).toBe(weighed());
  });
});

describe('the cases that count', () => {
  const weigh = (castId: string, of: 'wax' | 'cast', kg: number): Weight => ({
    ...{ id: `${of} ${castId}`, of, castId, treeId: null, kind: 'scale', kg, plusMinusKg: 0 },
    ...{ at: addMinutes(START, 9000), voidReason: null, stepId: null, version: 1 },
  });

  it('are whole casts of one alloy and wax; not one with a window cut out', () => {
    const newId = counter();
    const shop = playThrough(smallShop({ pieces: 3 }, newId), ['make-mould', 'pull'], newId);
    const ids = shop.casts.map(({ id }) => id);
    const weights = ids.flatMap((id, i) => [weigh(id, 'wax', 1), weigh(id, 'cast', 7 + i)]);
    const window = {
      ...{ id: 'o-1', castId: ids[2]!, kind: 'window' as const, what: 'back', openedAt: START },
      ...{ closedAt: null, closedHow: null, closedNote: '', version: 1 },
    };
    const given = { ...shop, weights, openItems: [window] };
    const pairs = castPairs(indexShop(given)).get('C87300 pattern')!;
    expect(pairs.map(({ castKg }) => castKg)).toEqual([7, 8]);
    const [line] = learnedLines(indexShop(given), DEFAULT_SETTINGS).filter(({ group }) => group === 'cast factor');
    expect(line!.learned!.value).toBe(7.5);
    // Two casts of 7.5 against four of the formula's 8.5385.
    expect(line!.offered).toBeCloseTo((2 * 7.5 + 4 * 8.5385) / 6, 3);
    expect(line!.inUse).toBe(line!.usual);
  });

  it('are casts, trees and pieces by room; what was done again, short or lost was not good, whatever came of it', () => {
    const newId = counter();
    const started = playThrough(smallShop({ pieces: 2 }, newId), [...UNTIL_POUR, 'coat'], newId);
    const shop = play(started, openStep(started, 'coat'), newId, { outcome: 'again' });
    const shell = passedRooms(indexShop(shop)).get('shell')!;
    expect(shell.map(({ good }) => good)).toEqual([false]);
    expect(
      passedRooms(indexShop(shop))
        .get('wax')!
        .every(({ good }) => good),
    ).toBeTrue();
  });
});

describe('the share that comes through at the first go', () => {
  it('has the handbook’s interval: 46 of 50 lie between 0.84 and 0.97', () => {
    const { low, high, median } = firstPass(46, 50);
    expect([low.toFixed(2), high.toFixed(2)]).toEqual(['0.84', '0.97']);
    expect(median).toBeGreaterThan(0.9);
    // All of five: still only 0.69 at least.
    expect(firstPass(5, 5).low).toBeCloseTo(0.7, 1);
    expect(() => firstPass(6, 5)).toThrowError(RangeError);
  });
});
