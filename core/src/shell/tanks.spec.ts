import type { Tank, TankCheck, TankDecision } from '../records/tanks.ts';
import { addMinutes } from '../units/instant.ts';
import { inWords } from '../units/words.ts';
import { lastsUntil, slurryKg, stuccoKg, tankHolds } from './shell-use.ts';
import { chartedChecks, tankLimits, tankStand } from './tank-stand.ts';

const DAY0 = '2027-03-01T07:00:00.000Z';
const day = (n: number) => addMinutes(DAY0, n * 1440);
const TANK: Tank = {
  ...{ id: 't', name: 'Face tank', slurry: 'face', litres: 200, leastShare: 0.5, densityGPerCm3: 2.4, cup: '4 mm cup' },
  ...{ lowS: null, highS: null, leastPh: 9, checkEveryHours: 24, base: { from: day(0), to: day(9) }, state: 'in use' },
  version: 1,
};
const check = (n: number, rest: Partial<TankCheck> = {}): TankCheck => ({
  ...{ id: `c${n}`, tankId: 't', at: day(n), mixer: 'running', viscosityS: 22, celsius: 21, densityGPerCm3: null },
  ...{ ph: 9.6, level: null, sieved: false, toppedUp: [], note: '', byId: null, voidReason: null, version: 1 },
  ...rest,
});
/** The ten values of the handbook: x̄ 22.01, limits 21.21 to 22.81. */
const BASE = [21.8, 22.1, 21.9, 22.4, 22.0, 21.7, 22.2, 22.0, 21.9, 22.1].map((viscosityS, i) =>
  check(i, { viscosityS }),
);
const decided = (n: number, coatsStand = true): TankDecision => ({
  ...{ id: `d${n}`, tankId: 't', at: day(n), coatsStand, words: '', byId: 'p', voidReason: null, version: 1 },
});

describe('a tank', () => {
  it('takes its limits from the base period that somebody chose', () => {
    const limits = tankLimits(TANK, BASE)!;
    expect([limits.low, limits.high].map((value) => Number(value.toFixed(2)))).toEqual([21.21, 22.81]);
    expect(tankLimits({ ...TANK, base: null }, BASE)).toBeNull();
    expect(tankLimits(TANK, BASE.slice(0, 5))).toBeNull();
  });

  it('is blocked by a stopped mixer until somebody decides; coats since the last good check are in doubt', () => {
    const checks = [...BASE, check(10), check(12, { mixer: 'stopped', viscosityS: null }), check(12.2)];
    const stand = tankStand(TANK, checks, []);
    expect([stand.blockedSince, stand.doubtFrom]).toEqual([day(12), day(10)]);
    expect(inWords(stand.why!)).toBe('the mixer stood still');
    // A good check afterwards decides nothing.
    expect(tankStand(TANK, checks, [decided(12.5)]).blockedSince).toBeNull();
    expect(tankStand(TANK, checks, [decided(11)]).blockedSince).toBe(day(12));
    expect(tankStand({ ...TANK, state: 'off' }, checks, []).blockedSince).toBeNull();
    expect(stand.nextCheckAt).toBe(day(13.2));
  });

  it('is blocked where its viscosity or pH is out, and only warned of where a run shows', () => {
    const why = (rest: Partial<TankCheck>) => inWords(tankStand(TANK, [...BASE, check(10, rest)], []).why ?? '');
    expect(why({ viscosityS: 23 })).toBe('23.0 s, above 22.8 s: thick');
    expect(why({ viscosityS: 21 })).toBe('21.0 s, below 21.2 s: thin');
    expect(why({ ph: 8.8 })).toBe('pH 8.8, below 9.0: it gels');
    expect(why({ viscosityS: 22.7 })).toBe('');
    const run = [...BASE, check(10, { viscosityS: 22.6 }), check(11, { viscosityS: 22.7 })];
    expect(chartedChecks(TANK, run).at(-1)!.signs).toContain('two of three');
    expect(tankStand(TANK, run, []).blockedSince).toBeNull();
    // A wrong entry that was taken back does not count.
    expect(tankStand(TANK, [...BASE, check(10, { viscosityS: 23, voidReason: 'misread' })], []).why).toBeNull();
  });
});

describe('what a shell room uses', () => {
  const coat = (n: number, areaCm2 = 10_000) => ({
    at: day(n),
    areaCm2,
    slurry: 'face' as const,
    stucco: 'fine' as const,
  });

  it('goes by the surface: 1.1 kg of slurry and 1.3 kg of stucco a square metre, none on a seal', () => {
    expect(slurryKg(coat(0, 1600))).toBeCloseTo(0.176, 9);
    expect(stuccoKg(coat(0, 1600))).toBeCloseTo(0.208, 9);
    expect(stuccoKg({ areaCm2: 1600, stucco: 'none' })).toBe(0);
  });

  it('is held against the levels that were read: what really goes, by what was worked out', () => {
    const coats = [1, 2, 3, 4, 5].map((n) => coat(n, 10_000));
    const levels = [
      { at: day(0), kg: 100, addedKg: 20 },
      // Four square metres: 4.4 kg by the sum, 5.5 really.
      { at: day(4.5), kg: 114.5, addedKg: 0 },
    ];
    const holds = tankHolds(levels, coats, day(6))!;
    expect(holds.factor).toBeCloseTo(1.25, 9);
    expect(holds.kg).toBeCloseTo(114.5 - 1.1 * 1.25, 9);
    expect(tankHolds([], coats, day(6))).toBeUndefined();
  });

  it('lasts until the coat that would go below what can be dipped in', () => {
    const coming = [1, 2, 3].map((n) => ({ at: day(n), kg: 10 }));
    expect(lastsUntil(100, 75, coming)).toBe(day(3));
    expect(lastsUntil(100, 60, coming)).toBeNull();
    expect(lastsUntil(50, 60, coming)).toBe(day(1));
  });
});
