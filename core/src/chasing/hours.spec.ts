import { chasingMinutes, joinMinutes } from './hours.ts';

describe('hours in the metal shop', () => {
  it('come from seam and surface, and from the weight where no surface is known', () => {
    // 0.42 m × 6 h/m = 2.52 h; 4 h where nothing is given.
    expect(joinMinutes(0.42)).toBe(151);
    expect(joinMinutes(null)).toBe(240);
    // 1600 cm² × 15 h/m² = 2.4 h; 8 kg: 1.5 × 8^⅔ = 6 h: the larger counts.
    expect(chasingMinutes(1600, null)).toBe(144);
    expect(chasingMinutes(1600, 8)).toBe(360);
    expect(chasingMinutes(6000, 8)).toBe(540);
    expect(chasingMinutes(null, 8)).toBe(360);
    expect(chasingMinutes(null, null)).toBeUndefined();
  });
});
