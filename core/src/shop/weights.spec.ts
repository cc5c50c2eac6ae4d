import { ALLOYS, alloyOf } from '../materials/alloys.ts';
import type { Shop } from '../records/shop.ts';
import { START, closing, counter, openStep, play, playThrough, smallShop } from '../testing/play.ts';
import { formatFigure } from '../units/figure.ts';
import { spanInWords } from '../units/instant.ts';
import { closeStep } from '../route/close-step.ts';
import { carrierLabel, castLabel, stepLabel } from '../route/labels.ts';
import { inWords } from '../units/words.ts';
import { plannedWax } from '../wax/planned-wax.ts';
import { sectionWeights } from './cast-weights.ts';
import { mouldDecisions, mouldUse, pieceDecisions } from './decisions.ts';
import { indexShop } from './index-shop.ts';
import { kindOf } from './kinds.ts';
import { pieceWeight } from './piece-weight.ts';
import { readingLines, readingsInWords } from './readings.ts';
import { treeFigures } from './tree-figures.ts';

const BAND = 0.1;

const LIFT = 25;

const weighed = (newId: () => string, waxKg: number, given = {}): Shop => {
  const shop = playThrough(smallShop(given, newId), ['make-mould', 'pull'], newId);
  return play(shop, openStep(shop, 'chase-wax'), newId, { readings: { waxKg } });
};

describe('a section’s weights', () => {
  it('come from the plan, then from the wax, then from the casting', () => {
    const newId = counter();
    const planned = smallShop({}, newId);
    const figures = (shop: Shop) => sectionWeights(indexShop(shop), shop.pieces[0]!, shop.sections[0]!, BAND);
    // 0.75 kg × 8.536 for silicon bronze
    expect(figures(planned).plannedCast!.value).toBeCloseTo(6.403, 2);
    expect(figures(planned).wax).toBeUndefined();
    const heavy = figures(weighed(newId, 0.855));
    expect(heavy.deviation!.flagged).toBeTrue();
    // 855 g ÷ (0.93 g/cm³ · 1600 cm²)
    expect(heavy.wall!.value).toBeCloseTo(5.746, 3);
  });

  it('plan the wax from wall and area where nobody entered one, and say nothing where neither is known', () => {
    const [section] = smallShop().sections;
    // 0.5 cm · 1600 cm² · 0.93 g/cm³
    expect(plannedWax({ ...section!, expectedWaxKg: null })!.value).toBeCloseTo(0.744, 6);
    expect(plannedWax({ ...section!, expectedWaxKg: null, areaCm2: null })).toBeUndefined();
  });

  it('add up to the piece, measured only when every part is', () => {
    const newId = counter();
    const shop = smallShop({ sections: [{}, { expectedWaxKg: 0.25 }] }, newId);
    const sum = pieceWeight(indexShop(shop), shop.pieces[0]!, BAND)!;
    expect(sum.value).toBeCloseTo((0.75 + 0.25) * 8.537, 1);
    expect(sum.source).toBe('computed');
    const unknown = smallShop({ sections: [{ expectedWaxKg: null, areaCm2: null }] }, newId);
    expect(pieceWeight(indexShop(unknown), unknown.pieces[0]!, BAND)).toBeUndefined();
  });
});

describe('a tree’s figures', () => {
  it('charge on the safe side, and flag what is too heavy to lift', () => {
    const newId = counter();
    const shop = weighed(newId, 3, { sections: [{ areaCm2: 6000 }] });
    const tree = shop.trees[0]!;
    const figures = treeFigures(indexShop(shop), tree.id, LIFT);
    expect(figures.metal!.castsKg).toBeCloseTo((3 * 8.36) / 0.93, 6);
    // 6000 cm² · 0.54 cm (6 coats of 0.9 mm) · 1.75 g/cm³
    expect(figures.shell!.value).toBeCloseTo(5.67, 2);
    expect(figures.poured!.tooHeavy).toBeTrue();
    expect(figures.dipping!.tooHeavy).toBeFalse();
  });

  it('know no shell for a block, and nothing where a wax has no weight at all', () => {
    const newId = counter();
    const block = smallShop({ work: { method: 'block' } }, newId);
    expect(Object.keys(treeFigures(indexShop(block), block.trees[0]!.id, LIFT))).toEqual(['metal', 'cup']);
    const unknown = smallShop({ sections: [{ expectedWaxKg: null, areaCm2: null }] }, newId);
    expect(treeFigures(indexShop(unknown), unknown.trees[0]!.id, LIFT)).toEqual({});
  });
});

describe('what wants a decision', () => {
  it('a wax outside its band until it is joined', () => {
    const newId = counter();
    const heavy = weighed(newId, 0.855);
    const decisions = (shop: Shop) =>
      pieceDecisions(indexShop(shop), shop.pieces[0]!, BAND).map(({ text }) => inWords(text));
    expect(decisions(heavy)).toEqual([
      'Otter with Reed 1/1: wax 14 % over: +0.9 kg bronze. Mend the wax, or leave it so?',
    ]);
    expect(decisions(play(heavy, openStep(heavy, 'join-tree'), newId))).toEqual([]);
    expect(decisions(weighed(newId, 0.76))).toEqual([]);
  });

  it('a mould that will not last for what it owes; pulls before Kalvet and spoilt ones count', () => {
    const newId = counter();
    const made = playThrough(smallShop({ pieces: 5 }, newId), ['make-mould', 'pull'], newId);
    const spoilt = play(made, openStep(made, 'pull'), newId, { outcome: 'lost', note: 'bubbles' });
    const mould = { ...spoilt.moulds[0]!, lifePulls: 10, pullsBefore: 5 };
    const index = indexShop({ ...spoilt, moulds: [mould] });
    // 5 before, 1 good, 1 spoilt; owed are pieces 2 (again), 3, 4 and 5
    expect(mouldUse(index, mould)).toEqual({ used: 7, owed: 4, left: 3 });
    expect(inWords(mouldDecisions(index, mould)[0]!.text)).toContain('good for 3 pulls more, 4 are still to be pulled');
    expect(mouldDecisions(index, { ...mould, lifePulls: 60 })).toEqual([]);
  });
});

describe('words', () => {
  it('name a cast as its tag does, a tree by what hangs on it, a step by both', () => {
    const newId = counter();
    const shop = smallShop({ sections: [{}, {}], pieces: 2 }, newId);
    const index = indexShop(shop);
    expect(shop.casts.map((cast) => castLabel(index, cast))).toEqual(['OTT 1 A', 'OTT 1 B', 'OTT 2 A', 'OTT 2 B']);
    const single = smallShop({}, newId);
    expect(castLabel(indexShop(single), single.casts[0]!)).toBe('OTT 1');
    expect(carrierLabel(index, { carrier: 'tree', carrierId: shop.trees[0]!.id })).toBe('T-0 (OTT 1 A)');
    expect(stepLabel(index, openStep(shop, 'join-section'))).toBe('Join Section 2 · Otter with Reed 1/2');
  });

  it('say readings with their units, and of lists what their records are called', () => {
    expect(inWords(readingsInWords(kindOf('chase-wax'), { waxKg: 0.855, markPutIn: true }))).toBe(
      'wax weighs 0.855 kg, mark put in yes',
    );
    const newId = counter();
    const shop = playThrough(smallShop({}, newId), ['make-mould', 'pull'], newId);
    const pulled = shop.steps.find(({ kind }) => kind === 'pull')!;
    expect(readingLines(indexShop(shop), pulled).map(({ label, value }) => `${label} ${inWords(value)}`)).toEqual([
      'Mould M-1 whole',
      'Wax pattern',
      'Pot 82 °C',
    ]);
    expect(inWords(readingsInWords(kindOf('coat'), { slurry: 'face', stucco: 'none', roomC: 22.4 }))).toBe(
      'slurry face, stucco none (seal), room 22.4 °C',
    );
    expect(inWords(readingsInWords(kindOf('inspect'), { defects: ['gas', 'draw'] }, 1))).toBe(
      'gas porosity; draw / shrinkage',
    );
  });

  it('say spans and figures as a person does', () => {
    expect([40, 60, 200, 1440, 3600].map(spanInWords)).toEqual(['40 min', '1 h', '3 h 20 min', '1 day', '2 days 12 h']);
    expect(
      formatFigure({ value: 6.4, unit: 'kg', plusMinus: 0.19, source: 'computed', inWords: '', inputs: {} }, 1),
    ).toBe('6.4 ± 0.2 kg');
    expect(formatFigure({ value: 659.6, unit: 'cm3', source: 'computed', inWords: '', inputs: {} }, 0)).toBe('660 cm³');
  });
});

describe('what a record does to its carrier', () => {
  it('the mark is cut in once and kept as it was cut', () => {
    const newId = counter();
    const shop = weighed(newId, 0.75);
    expect(shop.pieces[0]!.markInWax).toBe('1/1');
    const index = indexShop({
      ...shop,
      pieces: shop.pieces.map((piece) => ({ ...piece, markInWax: 'I/I' })),
    });
    const again = { ...openStep(shop, 'inspect'), kind: 'chase-wax' as const };
    const ops = closeStep(index, again, closing('done', START, { readings: { waxKg: 0.75, markPutIn: true } }), newId);
    expect(ops.some((op) => op.table === 'pieces')).toBeFalse();
  });

  it('a section cut off again is inspected anew before it is joined anew', () => {
    const newId = counter();
    let shop = smallShop({ sections: [{}, {}] }, newId);
    const steps = [
      'coat',
      'coat',
      'coat',
      'coat',
      'coat',
      'coat',
      'fire',
      'leak-test',
      'pour',
      'knock-out',
      'inspect',
    ] as const;
    for (let i = 0; i < 2; i++)
      shop = playThrough(
        shop,
        [...(i === 0 ? (['make-mould'] as const) : []), 'pull', 'chase-wax', 'join-tree', ...steps],
        newId,
      );
    const cut = play(shop, openStep(shop, 'join-section'), newId, {
      outcome: 'cut off',
      note: 'out of line',
    });
    expect(openStep(cut, 'inspect').insertedWhy).toBe('out of line');
    expect(openStep(cut, 'join-section').insertedAfter).not.toBeNull();
  });
});

describe('the alloys', () => {
  it('are a table that can be trusted in itself: solidus below liquidus, leaded ones said', () => {
    for (const alloy of ALLOYS) expect(alloy.solidusC).withContext(alloy.id).toBeLessThan(alloy.liquidusC);
    expect(ALLOYS.filter(({ leaded }) => leaded).map(({ id }) => id)).toEqual(['C83600', 'C92200']);
    expect(alloyOf('C87300').addition).toBe('none');
    expect(() => alloyOf('C1')).toThrowError(/there are C87300/);
  });
});
