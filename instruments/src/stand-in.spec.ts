import { alloyOf, cooledTo, learnFurnace, addMinutes } from '@kalvet/core';
import { chance } from './chance.ts';
import { COLD, later } from './furnace.ts';
import type { StandInFurnace } from './furnace.ts';
import { IMMERSION, INFRARED, Signal } from './signal.ts';

const furnace: StandInFurnace = {
  alloy: alloyOf('C90500'),
  chargeKg: 100,
  powerKw: 110,
  efficiency: 0.12,
  targetC: 1150,
  coolingPerMin: 0.0066,
};

describe('a furnace that stands in', () => {
  it('takes the handbook’s 17.78 kWh into 100 kg at 1150 °C: at 12 % of 110 kW some 81 min and 148 kWh', () => {
    let melt = COLD;
    let minutes = 0;
    while (melt.celsius < 1149.9 && minutes < 300) {
      melt = later(furnace, melt, 60);
      minutes++;
    }
    expect(minutes).toBe(81);
    expect(melt.kwh).toBeCloseTo(148, -1);
  });

  it('stands still at the middle of its freezing range while it melts, and cools once it is tapped', () => {
    let melt = COLD;
    const seen = new Set<number>();
    for (let minute = 0; minute < 120; minute++) {
      melt = later(furnace, melt, 60);
      seen.add(Math.round(melt.celsius * 10) / 10);
    }
    // 854 and 999 °C: 926.5 °C.
    expect(seen.has(926.5)).toBeTrue();
    const tapped = later(furnace, melt, 240, true);
    expect(tapped.celsius).toBeCloseTo(cooledTo(1150, 4, 0.0066), 3);
  });
});

describe('a pyrometer that stands in', () => {
  it('needs three of its seven seconds to come near, and lies round what is there', () => {
    const dipped = new Signal({ ...IMMERSION, dropout: 0, wrongUnit: 0 }, chance(7));
    const read = (seconds: number) => Array.from({ length: seconds }, () => dipped.look(1160, 1)!.value).at(-1)!;
    expect(read(7)).toBeLessThan(800);
    expect(Math.abs(read(40) - 1160)).toBeLessThan(5);
  });

  it('is silent at times, and sends °F now and then, the same at each run', () => {
    const run = () => {
      const signal = new Signal({ ...IMMERSION, dropout: 0.02, wrongUnit: 0.02, lagS: 0 }, chance(3));
      return Array.from({ length: 400 }, () => signal.look(1160, 1)?.value ?? null);
    };
    const values = run();
    expect(values).toEqual(run());
    expect(values.filter((value) => value === null).length).toBeGreaterThan(10);
    // 1160 °C are 2120 °F.
    expect(values.some((value) => value !== null && Math.abs(value - 2120) < 12)).toBeTrue();
  });

  it('teaches the furnace within 5 K of what it is, infrared too', () => {
    for (const [model, seed] of [
      [IMMERSION, 11],
      [INFRARED, 12],
    ] as const) {
      const random = chance(seed);
      const heats = Array.from({ length: 20 }, (_, n) => {
        const signal = new Signal({ ...model, lagS: 0, wrongUnit: 0, dropout: 0 }, random);
        const first = 1150 + 30 * random();
        const at = addMinutes('2026-03-05T12:00:00.000Z', n * 1440);
        const readings = [0, 5, 10].map((minutes) => ({
          at: addMinutes(at, minutes),
          celsius: signal.look(cooledTo(first, minutes, 0.0066), 1)!.value,
          where: 'furnace' as const,
          byEye: false,
        }));
        return { alloy: furnace.alloy, chargeKg: 100, energyKwh: null, cold: false, readings };
      });
      const found = learnFurnace(heats, { coolingPerMin: 0.01, efficiency: 0.12 }).coolingPerMin!.value;
      expect(Math.abs(cooledTo(1150, 10, found) - cooledTo(1150, 10, 0.0066))).toBeLessThan(5);
    }
  });
});
