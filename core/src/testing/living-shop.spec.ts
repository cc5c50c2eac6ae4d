import { liveOn } from './living-shop.ts';

describe('a shop that lives', () => {
  it('promises each piece when it comes in, finishes it, and gives the same life for the same seed', () => {
    const kept = liveOn({ weeks: 14, seed: 3, runs: 20, tries: 0 });
    // One a week; the last ones are still in work.
    expect(kept.length).toBeGreaterThan(8);
    expect(kept.length).toBeLessThan(14);
    for (const { told, even, ninety, finished } of kept) {
      expect(told <= ninety && even <= ninety).toBeTrue();
      expect(finished).toBeGreaterThan(0);
    }
    // Some break their first date: durations differ and casts are lost.
    expect(kept.some(({ finished, told }) => finished > told)).toBeTrue();
    expect(liveOn({ weeks: 14, seed: 3, runs: 20, tries: 0 })).toEqual(kept);
    expect(liveOn({ weeks: 14, seed: 4, runs: 20, tries: 0 })).not.toEqual(kept);
  });
});
