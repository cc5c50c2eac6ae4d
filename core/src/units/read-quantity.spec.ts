import * as fc from 'fast-check';
import { readQuantity } from './read-quantity.ts';
import type { Units } from './system.ts';
import { METRIC } from './system.ts';
import type { Unit } from './quantity.ts';

const AMERICAN: Units = { mass: 'lb', temperature: '°F', length: 'inch', volume: 'US gal', area: 'ft²' };
const read = (text: string, unit: Unit, units: Units = METRIC) => readQuantity(text, unit, units)?.value;

describe('what somebody types as a quantity', () => {
  it('is read with a comma or a point, with its unit or without', () => {
    expect([read('2,43', 'kg'), read('2.43', 'kg'), read(' 2.43 kg ', 'kg'), read('430 g', 'kg')]).toEqual([
      2.43, 2.43, 2.43, 0.43,
    ]);
  });

  it('is read in the other units as people write them', () => {
    // 1 lb = 0.45359237 kg, 16 oz a pound, 1 in = 25.4 mm, °C = (°F − 32) ÷ 1.8.
    expect(read('2 lb 4 oz', 'kg')).toBeCloseTo(2.25 * 0.45359237, 9);
    expect(read('3/16 in', 'mm')).toBeCloseTo(4.7625, 9);
    expect(read('1/2"', 'mm')).toBeCloseTo(12.7, 9);
    expect(read('1 1/2 in', 'mm')).toBeCloseTo(38.1, 9);
    expect(read('½ in', 'mm')).toBeCloseTo(12.7, 9);
    expect(read('5\' 3"', 'mm')).toBeCloseTo(63 * 25.4, 9);
    expect(read('2100F', '°C')).toBeCloseTo(1148.889, 3);
    expect(read('2100 °F', '°C')).toBeCloseTo(1148.889, 3);
    expect(read('5 gal', 'l')).toBeCloseTo(18.927, 3);
    expect(read('10 sq ft', 'cm2')).toBeCloseTo(9290.304, 3);
    expect(read('45 cm', 'mm')).toBe(450);
  });

  it('is in the reader’s own unit where it names none', () => {
    expect(read('10', 'kg', AMERICAN)).toBeCloseTo(4.5359, 4);
    expect(read('2100', '°C', AMERICAN)).toBeCloseTo(1148.889, 3);
    expect(read('10 kg', 'kg', AMERICAN)).toBe(10);
  });

  it('is kept as it was typed where that was another unit than the one that is kept', () => {
    expect(readQuantity(' 2 lb 4 oz ', 'kg')?.typed).toBe('2 lb 4 oz');
    expect(readQuantity('10', 'kg', AMERICAN)?.typed).toBe('10');
    expect(readQuantity('10', 'kg')?.typed).toBeUndefined();
  });

  it('is not guessed: what cannot be understood is nothing', () => {
    for (const text of [
      '',
      'about 3',
      '2 lb 3',
      '4 oz 2 lb',
      '3 min',
      '1.2.3',
      '2 lb 4 oz 1 oz',
      '12 stone',
      '1/0',
      '1e3',
    ])
      expect(readQuantity(text, 'kg')).withContext(text).toBeUndefined();
    expect(readQuantity('3 lb', 'mm')).toBeUndefined();
    expect(readQuantity('900 K', '%')).toBeUndefined();
  });

  it('reads back what was shown, in every unit', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 500_000 }), (grams) => {
        const kilograms = grams / 1000;
        const pounds = readQuantity((kilograms / 0.45359237).toFixed(6), 'kg', AMERICAN)!.value;
        expect(Math.abs(pounds - kilograms)).toBeLessThan(1e-5);
      }),
      { seed: 11, numRuns: 60 },
    );
  });
});
