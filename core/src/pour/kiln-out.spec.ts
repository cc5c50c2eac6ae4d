import { secondsUntil, shellAfter } from './kiln-out.ts';

describe('a shell out of the kiln', () => {
  const bare = (wallMm: number) => ({ fromC: 870, wallMm });

  it('cools by what it radiates and what air takes', () => {
    // 8 mm from 870 °C at 20 °C: 732 after 30 s, 641 after 60 s, 522 after 2 min, 388 after 4 min; 12 mm 698, 6 mm 594 after 60 s.
    expect([30, 60, 120, 240].map((seconds) => Math.round(shellAfter(seconds, bare(8))))).toEqual([732, 641, 522, 388]);
    expect([12, 6].map((mm) => Math.round(shellAfter(60, bare(mm))))).toEqual([698, 594]);
    expect(shellAfter(0, bare(8))).toBeCloseTo(870, 9);
  });

  it('is at a temperature after the seconds that bring it there', () => {
    for (const downTo of [721, 600, 400])
      expect(shellAfter(secondsUntil(downTo, bare(8)), bare(8))).toBeCloseTo(downTo, 1);
    expect(secondsUntil(900, bare(8))).toBe(0);
    // Air is warmer than that.
    expect(secondsUntil(10, bare(8))).toBe(Infinity);
  });

  it('wrapped or bedded in hot sand keeps its heat longer by as much as it loses less', () => {
    // Half the loss: the same temperature after twice the time, since nothing else is in the law.
    expect(secondsUntil(641, { ...bare(8), share: 0.5 })).toBeCloseTo(2 * secondsUntil(641, bare(8)), 1);
    expect(shellAfter(600, { ...bare(8), share: 0 })).toBeCloseTo(870, 9);
  });

  it('refuses what cannot be, by name', () => {
    expect(() => shellAfter(60, { fromC: 870, wallMm: 0 })).toThrowError(RangeError, /wall/);
    expect(() => shellAfter(60, { fromC: 2000, wallMm: 8 })).toThrowError(RangeError, /kiln/);
    expect(() => shellAfter(-1, bare(8))).toThrowError(RangeError, /seconds/);
  });
});
