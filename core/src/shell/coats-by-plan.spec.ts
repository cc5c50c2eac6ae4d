import { USUAL_COAT_PLAN } from '../records/coat-plan.ts';
import { coatsByPlan, coatsKept, plannedCoat } from './coats-by-plan.ts';

describe('the coat plan', () => {
  it('starts at 6 coats and adds one per 100 mm of metal above 200, at most 20', () => {
    const coats = (mm: number | null) => coatsByPlan(USUAL_COAT_PLAN, mm);
    expect([200, 300, 450, 5000].map(coats)).toEqual([6, 7, 9, 20]);
    expect(coats(null)).toBe(8);
    expect(() => coats(-1)).toThrowError(RangeError);
  });

  it('says of each coat what it is made of, and seals with the last', () => {
    const own = (sequence: number, seal = false) => plannedCoat(USUAL_COAT_PLAN, sequence, seal);
    expect([1, 2, 3, 4, 5, 9].map((n) => `${own(n).slurry} ${own(n).stucco}`)).toEqual([
      'face fine',
      'face fine',
      'backup medium',
      'backup medium',
      'backup coarse',
      'backup coarse',
    ]);
    expect(own(2, true)).toEqual({
      ...{ slurry: 'backup', stucco: 'none', grain: '', method: 'dip', stuccoBy: 'rain', waitMinutes: null },
    });
    expect(coatsKept(USUAL_COAT_PLAN, 7)).toEqual(
      jasmine.objectContaining({ code: 'shell', number: 1, coats: 7, why: null }),
    );
  });
});
