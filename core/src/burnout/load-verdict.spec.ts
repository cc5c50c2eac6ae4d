import { addMinutes } from '../units/instant.ts';
import { inWords } from '../units/words.ts';
import type { FiringProfile } from './firing-profile.ts';
import { plannedAt } from './firing-profile.ts';
import type { KilnFile } from './kiln-file.ts';
import { kilnFile } from './kiln-file.ts';
import { loadVerdict, minutesAbove } from './load-verdict.ts';
import { treeFootprint } from './tree-footprint.ts';

const LIT = '2027-03-04T07:00:00.000Z';
const FIRE: FiringProfile = { name: 'Shell', stretches: [{ toC: 900, perHourK: 400, holdMinutes: 120 }] };
const curve = (minutes: number, celsiusAt: (minute: number) => number, every = 2) =>
  Array.from({ length: Math.floor(minutes / every) + 1 }, (_, i) => ({
    at: addMinutes(LIT, i * every),
    celsius: celsiusAt(i * every),
  }));

describe('a load against its profile', () => {
  it('says how long a hold was too short: 18 minutes that are missing read 18 ± 1', () => {
    // Up in 132 minutes, held for 102 instead of 120, then the door is opened.
    const warm = curve(300, (m) => (m < 234 ? plannedAt(FIRE, m) : Math.max(300, 900 - 20 * (m - 234))));
    const cold = curve(300, (m) => (m < 234 ? plannedAt(FIRE, m) : Math.max(300, 900 - 30 * (m - 234))) - 8);
    const { holds, alarms, lagK, hottestC } = loadVerdict([warm, cold], FIRE, { isBlock: false });
    // Within 15 K of the hold counts, on the way up and down too: about three minutes more.
    expect(Math.abs(holds[0]!.shortMinutes - 18)).toBeLessThanOrEqual(3);
    const exact = curve(300, (m) => (m >= 132 && m < 234 ? 900 : 20), 1);
    expect(Math.abs(loadVerdict([exact], FIRE, { isBlock: false }).holds[0]!.shortMinutes - 18)).toBeLessThanOrEqual(1);
    expect(inWords(alarms[0]!)).toMatch(/^Held at 900 °C short by 1\d min of 2 h: (15|20) min more\?$/);
    expect(hottestC).toBe(900);
    expect(lagK).toBeGreaterThan(8);
    expect(loadVerdict([], FIRE, { isBlock: false }).holds[0]!.heldMinutes).toBe(0);
    // While it is held yet it is not short; once the fire is out it is.
    const still = curve(200, (m) => plannedAt(FIRE, m));
    expect(loadVerdict([still], FIRE, { isBlock: false, burning: true }).alarms).toEqual([]);
    expect(loadVerdict([warm, cold], FIRE, { isBlock: false, burning: true }).alarms.length).toBe(1);
  });

  it('counts the minutes above 1000 °C, which weaken fused silica', () => {
    const ramp = curve(60, (m) => 970 + m, 10);
    expect(minutesAbove(ramp, 1000)).toBeCloseTo(30, 6);
    expect(loadVerdict([ramp], null, { isBlock: false }).above1000Minutes).toBeCloseTo(30, 6);
  });

  it('alarms where a block is too hot, or goes too fast where its sand changes its size', () => {
    const words = (perHourK: number, topC: number) =>
      loadVerdict([curve(1200, (m) => Math.min(topC, 20 + (perHourK / 60) * m), 5)], null, {
        isBlock: true,
      }).alarms.map((alarm) => inWords(alarm));
    expect(words(50, 700)).toEqual([]);
    expect(words(120, 700).length).toBe(2);
    expect(words(120, 700)[0]).toContain('120 K an hour through 220 °C to 270 °C');
    expect(words(50, 780)[0]).toContain('plaster breaks down');
    // A shell bears both.
    expect(loadVerdict([curve(300, (m) => 20 + 4 * m)], null, { isBlock: false }).alarms).toEqual([]);
  });
});

describe('a kiln logger’s file', () => {
  const rows = (text: string) => text.split('\n').map((line) => line.split(';'));

  it('is read by its heads, each thermocouple by its name, °F where it says so', () => {
    const file = kilnFile(
      rows('Kiln 2\nDate;Time;TC1 °C;TC2 °F\n2027-03-04;07:00;20,5;68\n2027-03-04;07:02;25;77\n;;;'),
      'Europe/London',
    ) as KilnFile;
    expect(file.couples.map(({ channel, readings }) => [channel, readings.map(({ celsius }) => celsius)])).toEqual([
      ['TC1 °C', [20.5, 25]],
      ['TC2 °F', [20, 25]],
    ]);
    expect(inWords(file.notes[0]!)).toContain('°F');
  });

  it('is refused where it names nothing, or holds no temperatures', () => {
    const wrong = (text: string) => 'wrong' in kilnFile(rows(text), 'Europe/London');
    expect(wrong('1;2\n3;4')).toBeTrue();
    expect(wrong('time;note\n2027-03-04T07:00:00Z;lit')).toBeTrue();
  });
});

describe('how much room a tree takes in the kiln', () => {
  it('goes by the height and surface of what hangs on it, with its wall or its block', () => {
    // 260 mm high, 1600 cm²: four sides of 154 mm; 12.6 mm of shell walls and 40 mm of bars; the cup below.
    expect(treeFootprint([{ metalHeightMm: 260, areaCm2: 1600 }], { wallMm: 6.3, isBlock: false })).toEqual({
      acrossMm: 206,
      deepMm: 206,
      highMm: 386,
    });
    const three = treeFootprint(
      Array.from({ length: 3 }, () => ({ metalHeightMm: 150, areaCm2: 470 })),
      {
        wallMm: 5.4,
        isBlock: false,
      },
    );
    // Two in a row and two rows of 78 mm.
    expect([three.acrossMm, three.deepMm]).toEqual([207, 207]);
    const block = treeFootprint([{ metalHeightMm: 620, areaCm2: 12_800 }], { wallMm: 0, isBlock: true });
    expect(block.highMm).toBe(820);
    expect(() => treeFootprint([], { wallMm: 5, isBlock: false })).toThrowError(RangeError);
  });
});
