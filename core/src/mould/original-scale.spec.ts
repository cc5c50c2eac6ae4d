import { alloyOf } from '../materials/alloys.ts';
import { originalScale, usualOriginalScale } from './original-scale.ts';

describe('shrinkage chain', () => {
  it('makes the original 1.0317 times the bronze for 0.3, 1.0 and 1.8 %', () => {
    expect(originalScale({ mould: 0.003, wax: 0.01, metal: 0.018 }).value).toBeCloseTo(1.0317, 4);
  });

  it('is one figure for the form and the command line; a direct wax is the original itself', () => {
    // Condensation silicone 0.45 %, wax 1.1 %, silicon bronze 1.7 %.
    const silicon = alloyOf('C87300');
    expect(usualOriginalScale(silicon).value).toBeCloseTo(1 / (0.9955 * 0.989 * 0.983), 9);
    expect(usualOriginalScale(silicon, 'direct').value).toBeCloseTo(1 / 0.983, 9);
  });

  it('refuses a shrinkage typed in per cent', () => {
    expect(() => originalScale({ mould: 0.3, wax: 0.01, metal: 0.018 })).toThrowError(
      /mould shrinkage must be from 0 to 0.2/,
    );
  });
});
