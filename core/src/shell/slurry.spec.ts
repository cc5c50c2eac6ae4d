import { slurryFor } from './slurry.ts';

describe('slurry for a surface', () => {
  it('is 0.9 to 1.3 kg a square metre and coat', () => {
    // 0.16 m² × 7 coats = 1.12 m²: 1.008 to 1.456 kg.
    const { value, plusMinus } = slurryFor(1600, 7);
    expect([value - plusMinus!, value + plusMinus!].map((kg) => Math.round(kg * 1000))).toEqual([1008, 1456]);
    expect(() => slurryFor(0, 7)).toThrowError(RangeError, /area/);
    expect(() => slurryFor(1600, 0)).toThrowError(RangeError, /coats/);
  });
});
