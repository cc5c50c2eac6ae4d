import { heaviest } from './heaviest.ts';

describe('the most that a surface can hold', () => {
  it('is a ball: of radius 10 cm it has 1256.6 cm² and 4.189 l', () => {
    // 4π·10² = 1256.64 cm²; 4/3·π·10³ = 4188.8 cm³; a tenth more area makes 1.1^1.5 = 1.1537 of it.
    expect(heaviest(1256.64, 1)).toBeCloseTo(4.1888 * 1.1 ** 1.5, 3);
    expect(heaviest(1256.64, 8.36) / heaviest(1256.64, 1)).toBeCloseTo(8.36, 9);
    expect(() => heaviest(0, 1)).toThrowError(RangeError);
  });
});
