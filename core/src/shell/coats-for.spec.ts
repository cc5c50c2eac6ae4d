import { coatsFor } from './coats-for.ts';

describe('coats', () => {
  it('starts at 6 coats and adds one per 100 mm above 200, at most 20', () => {
    expect([200, 300, 450, 5000].map(coatsFor)).toEqual([6, 7, 9, 20]);
    expect(coatsFor(null)).toBe(8);
  });
});
