// Ramps and holds, what a block bears of them, and what thermocouples say was held.
import { inWords } from '../units/words.ts';
import { addMinutes } from '../units/instant.ts';
import type { FiringProfile } from './firing-profile.ts';
import { judgeBlockProfile, plannedAt, profileMinutes } from './firing-profile.ts';
import type { KilnReading } from './held-minutes.ts';
import { coldestLag, heldMinutes, judgeHold } from './held-minutes.ts';

const LIT = '2027-03-01T06:00:00.000Z';
const SHELL: FiringProfile = { name: 'shell', stretches: [{ toC: 920, perHourK: 300, holdMinutes: 120 }] };
/** Up at 5 K a minute, held, and down again; read every minute. */
const curve = (holdMinutes: number, topC = 920): KilnReading[] => {
  const up = (topC - 20) / 5;
  return Array.from({ length: Math.ceil(2 * up + holdMinutes) }, (_, minute) => ({
    at: addMinutes(LIT, minute),
    celsius:
      minute <= up ? 20 + 5 * minute : minute <= up + holdMinutes ? topC : topC - 5 * (minute - up - holdMinutes),
  }));
};

describe('a firing profile', () => {
  it('is ramps and holds, as long as they take', () => {
    // 900 K at 300 K an hour are three hours, then two held.
    expect(profileMinutes(SHELL)).toBeCloseTo(300, 9);
    expect([0, 90, 180, 250, 400].map((minute) => Math.round(plannedAt(SHELL, minute)))).toEqual([
      20, 470, 920, 920, 920,
    ]);
    expect(profileMinutes(SHELL, 920)).toBe(120);
  });

  it('is refused for a block where quartz would crack it, or plaster breaks down', () => {
    const slow: FiringProfile = {
      name: 'block',
      stretches: [
        { toC: 150, perHourK: 100, holdMinutes: 360 },
        { toC: 700, perHourK: 50, holdMinutes: 240 },
        { toC: 120, perHourK: 40, holdMinutes: 0 },
      ],
    };
    expect(judgeBlockProfile(slow)).toEqual([]);
    const words = judgeBlockProfile(SHELL).map(({ message }) => inWords(message));
    expect(words.length).toBe(3);
    expect(words[0]).toBe('920 °C: plaster breaks down above 750 °C');
    expect(words[1]).toContain('300 K an hour through 220 °C to 270 °C');
    // Down too fast is as bad as up.
    const down = { ...slow, stretches: [...slow.stretches.slice(0, 2), { toC: 20, perHourK: null, holdMinutes: 0 }] };
    expect(judgeBlockProfile(down).length).toBe(2);
  });
});

describe('what was held', () => {
  it('is short by 18 minutes where 18 are missing', () => {
    const plan = { holdC: 920, minutes: 120 };
    // Within 15 K the ramps count too: three minutes of 5 K on either side.
    expect(heldMinutes(curve(114), 920)).toBeCloseTo(120, 0);
    expect(judgeHold([curve(114)], plan).shortMinutes).toBeLessThan(1);
    expect(judgeHold([curve(96)], plan).shortMinutes).toBeCloseTo(18, 0);
    // The coldest of four decides.
    expect(judgeHold([curve(120), curve(96), curve(130)], plan).shortMinutes).toBeCloseTo(18, 0);
    expect(judgeHold([], plan)).toEqual({ heldMinutes: 0, shortMinutes: 120 });
  });

  it('counts nothing that nobody read, nor what was too hot', () => {
    const [first, ...rest] = curve(120);
    const gap = [first!, ...rest.filter(({ at }) => at < addMinutes(LIT, 190) || at > addMinutes(LIT, 250))];
    expect(heldMinutes(gap, 920)).toBeLessThan(heldMinutes(curve(120), 920) - 55);
    expect(heldMinutes(curve(120, 960), 920)).toBeLessThan(15);
  });

  it('tells how far the coldest lies behind', () => {
    const warm = curve(60);
    expect(coldestLag([warm, warm.map(({ at, celsius }) => ({ at, celsius: celsius - 25 }))])).toBeCloseTo(25, 6);
    // Half a minute later at 5 K a minute.
    const late = warm.map(({ at, celsius }) => ({ at: addMinutes(at, 0.5), celsius }));
    expect(coldestLag([warm, late])).toBeCloseTo(2.5, 1);
    expect(coldestLag([warm])).toBe(0);
  });
});
