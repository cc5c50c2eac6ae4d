import { coolingMinutes } from './cooling-minutes.ts';

describe('cooling before knock-out', () => {
  it('is 2 h and 0.2 h a kilogram, at most a day', () => {
    expect(coolingMinutes(10)).toBe(240);
    expect(coolingMinutes(500)).toBe(1440);
  });

  it('is half as long again in a block, two days at most', () => {
    expect(coolingMinutes(10, true)).toBe(360);
    expect(coolingMinutes(500, true)).toBe(2880);
  });
});
