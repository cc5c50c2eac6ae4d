import { DEFAULT_CUPS } from '../records/tree-stock.ts';
import { cupSaid, usualCup } from './cups.ts';
import { DEFAULT_CUP, cupVolumeCm3 } from './tree-metal.ts';

describe('the cups of a shop', () => {
  it('hold 95, 296 and 659 cm³ where a shop has entered none: frusta of 30-14-60, 45-20-85 and 60-25-110 mm', () => {
    // π · 60 / 3 · (30² + 30·14 + 14²) = 95 253 mm³, and so on.
    expect(DEFAULT_CUPS.map((cup) => Math.round(cupVolumeCm3(cup)))).toEqual([95, 296, 659]);
  });

  it('are as large as the casts need: a tenth of their metal stands in the cup, poured to seven tenths', () => {
    const names = [3.4, 6.4, 17, 21, 80].map((kg) => usualCup(DEFAULT_CUPS, kg, 8.36)?.name);
    // Filled to seven tenths they hold 0.56, 1.73 and 3.86 kg of silicon bronze.
    expect(names).toEqual(['small', 'middle', 'middle', 'large', 'large']);
    expect(usualCup([], 3.4, 8.36)).toBeNull();
  });

  it('count as they were said, the one cup of older records too; the usual one where nobody has said', () => {
    const own = { name: 'own', topRadiusMm: 40, bottomRadiusMm: 20, heightMm: 70 };
    expect([cupSaid(own, null), cupSaid(false, own), cupSaid(true, own), cupSaid(undefined, own)]).toEqual([
      own,
      null,
      DEFAULT_CUP,
      own,
    ]);
  });
});
