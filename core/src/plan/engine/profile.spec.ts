// What is in use over time, against a plain list of minutes.
import { chance } from './chance.ts';
import { Profile } from './profile.ts';

describe('a profile', () => {
  it('answers as a list of every minute does, through takings and givings back', () => {
    const random = chance(5);
    const below = (count: number) => Math.floor(random() * count);
    const [capacity, end] = [5, 900];
    const profile = new Profile(capacity);
    const used = new Float64Array(end);
    const taken: [number, number, number][] = [];
    const blocked = (from: number, to: number, units: number): number | undefined => {
      const fits = (minute: number) => used[minute]! + units <= capacity;
      for (let minute = from; minute < to; minute++)
        if (!fits(minute)) {
          while (minute < end && !fits(minute)) minute++;
          return minute;
        }
      return undefined;
    };
    for (let round = 0; round < 3000; round++) {
      if (taken.length > 0 && random() < 0.45) {
        const [[from, to, units]] = taken.splice(below(taken.length), 1) as [[number, number, number]];
        profile.take(from, to, -units);
        for (let minute = from; minute < to; minute++) used[minute]! -= units;
      } else {
        const from = below(end - 60);
        const [to, units] = [from + below(60), 1 + below(3)];
        if (profile.blockedUntil(from, to, units) === undefined) {
          profile.take(from, to, units);
          taken.push([from, to, units]);
          for (let minute = from; minute < to; minute++) used[minute]! += units;
        }
      }
      const from = below(end - 100);
      const to = from + 1 + below(90);
      const units = 1 + below(4);
      expect(profile.blockedUntil(from, to, units))
        .withContext(`round ${round}`)
        .toBe(blocked(from, to, units));
    }
  });

  it('takes parts of units, and is as empty as before once all is given back', () => {
    const profile = new Profile(1);
    for (let i = 0; i < 10; i++) profile.take(i, i + 50, 0.1);
    expect(profile.blockedUntil(9, 10, 0.1)).toBe(50);
    expect(profile.blockedUntil(8, 9, 0.1)).toBeUndefined();
    for (let i = 0; i < 10; i++) profile.take(i, i + 50, -0.1);
    expect(profile.blockedUntil(0, 1000, 1)).toBeUndefined();
    expect(profile.blockedUntil(0, 10, 1.1)).toBe(Infinity);
    expect(profile.blockedUntil(10, 10, 5)).toBeUndefined();
  });
});
