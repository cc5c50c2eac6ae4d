import { mouldCount } from './mould-count.ts';

describe('a mould’s life in pulls', () => {
  it('counts those from before Kalvet, and says how many it has left', () => {
    expect(mouldCount({ pullsBefore: 12, lifePulls: 60 }, 5, 3)).toEqual({ used: 17, owed: 3, left: 43 });
  });

  it('has no end where nobody said one, and none left rather than fewer than none', () => {
    expect(mouldCount({ pullsBefore: 0, lifePulls: null }, 900, 1).left).toBeNull();
    expect(mouldCount({ pullsBefore: 60, lifePulls: 50 }, 4, 1).left).toBe(0);
  });
});
