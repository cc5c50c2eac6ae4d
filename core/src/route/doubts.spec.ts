import type { ReadingDef } from '../records/readings.ts';
import { num } from '../records/readings.ts';
import { inWords } from '../units/words.ts';
import { around, doubts } from './doubts.ts';

const DEFS: readonly ReadingDef[] = [
  num('waxKg', 'Wax weighs', 'kg', [0.005, 500, 3]),
  num('metalC', 'Metal at the cup', '°C', [400, 1500, 0]),
  { key: 'castKg', label: 'Casts weigh', kind: 'perCast', unit: 'kg', decimals: 2 },
];
const wax = { key: 'waxKg', ...around(0.34), from: '0.340 kg is planned' };
const asked = (given: object, expected = [wax]) =>
  doubts(expected, given as Record<string, unknown>, 'done', DEFS).map(({ asks }) => asks!);

describe('an unlikely reading', () => {
  it('is asked about outside a third to three times of what is expected, and only there', () => {
    // 0.34 / 3 = 0.1133; 0.34 × 3 = 1.02.
    expect(asked({ waxKg: 0.114 })).toEqual([]);
    expect(asked({ waxKg: 1.02 })).toEqual([]);
    expect(asked({ waxKg: 0.113 }).length).toBe(1);
    expect(asked({ waxKg: 1.021 }).length).toBe(1);
    expect(asked({})).toEqual([]);
  });

  it('says what was probably meant: grams, a point left out, Fahrenheit', () => {
    const [grams] = asked({ waxKg: 380 });
    expect([grams!.field, grams!.instead?.value]).toEqual(['readings.waxKg', 0.38]);
    expect(inWords(grams!.says)).toBe('Wax weighs 380 kg, but 0.340 kg is planned');
    // 2,43 that became 243: with 2.4 planned the point is put back two places.
    expect(asked({ waxKg: 243 }, [{ ...wax, ...around(2.4) }])[0]!.instead?.value).toBe(2.43);
    const cup = { key: 'metalC', low: 936, high: 1266, from: 'silicon bronze' };
    // 2050 °F = 1121 °C.
    expect(asked({ metalC: 2050 }, [cup])[0]!.instead?.value).toBeCloseTo(1121.1, 1);
    expect(asked({ waxKg: 0.05 })[0]!.instead).toBeUndefined();
  });

  it('is looked for in each cast of a tree, and only at its outcomes', () => {
    const casts = ['a', 'b'].map((of) => ({ key: 'castKg', of, ...around(3), from: 'its wax says 3.0 kg' }));
    expect(doubts(casts, { castKg: { a: 3.1, b: 31 } }, 'done', DEFS).map(({ asks }) => asks!.field)).toEqual([
      'readings.castKg.b',
    ]);
    const poured = { ...wax, outcomes: ['poured'] };
    expect(doubts([poured], { waxKg: 380 }, 'short', DEFS)).toEqual([]);
    expect(doubts([poured], { waxKg: 380 }, 'poured', DEFS).length).toBe(1);
  });
});
