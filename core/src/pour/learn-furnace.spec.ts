import { alloyOf } from '../materials/alloys.ts';
import { addMinutes } from '../units/instant.ts';
import type { ClosedHeat, MetalReading } from './learn-furnace.ts';
import { learned } from '../units/learned.ts';
import { learnFurnace } from './learn-furnace.ts';
import { meltEnergyKJPerKg } from './melt-minutes.ts';
import { cooledTo } from './targets.ts';

const AT = '2026-03-05T12:00:00.000Z';
const alloy = alloyOf('C90500');
const read = (minutes: number, celsius: number, where: MetalReading['where'], byEye = false): MetalReading => ({
  at: addMinutes(AT, minutes),
  celsius,
  where,
  byEye,
});
const heat = (readings: readonly MetalReading[], rest: Partial<ClosedHeat> = {}): ClosedHeat => ({
  alloy,
  chargeKg: 100,
  energyKwh: null,
  cold: false,
  readings,
  ...rest,
});
const USUAL = { coolingPerMin: 0.01, efficiency: 0.12 };

/** A small generator, so that noise is the same at each run (D. Lehmer's). */
const noise = (seed: number) => {
  let state = seed;
  return () => (state = (state * 48_271) % 2_147_483_647) / 2_147_483_647 - 0.5;
};

describe('what closed heats teach of the furnace', () => {
  it('is k = 0.00655/min of 1180 and 1150 °C four minutes apart, and 30 K from the crucible to the cup', () => {
    const [after] = [cooledTo(1150, 2, 0.00655)];
    const found = learnFurnace(
      [heat([read(0, 1180, 'furnace'), read(4, 1150, 'furnace'), read(6, after - 30, 'cup')])],
      USUAL,
    );
    expect(found.coolingPerMin!.value).toBeCloseTo(0.00655, 5);
    expect(found.transferK!.value).toBeCloseTo(30, 1);
    expect(found.efficiency).toBeUndefined();
  });

  it('is not learned by eye, from readings a minute apart, from a rising one, or over an hour', () => {
    const found = learnFurnace(
      [
        heat([read(0, 1180, 'furnace', true), read(4, 1150, 'furnace', true)]),
        heat([read(0, 1180, 'furnace'), read(1, 1150, 'furnace')]),
        heat([read(0, 1150, 'furnace'), read(10, 1180, 'furnace')]),
        heat([read(0, 1180, 'furnace'), read(60, 1000, 'furnace')]),
      ],
      USUAL,
    );
    expect(found).toEqual({});
  });

  it('is the efficiency of heats in a warm furnace, and the lining of those that were lit cold', () => {
    // The handbook: 640.0 kJ/kg from 20 to 1150 °C, 100 kg hold 17.78 kWh; at 12 % that is 148 kWh.
    expect(meltEnergyKJPerKg(alloy, 1150)).toBeCloseTo(640, 0);
    const hot = [read(0, 1150, 'furnace')];
    const found = learnFurnace([heat(hot, { energyKwh: 148.15 }), heat(hot, { energyKwh: 258.15, cold: true })], USUAL);
    expect(found.efficiency!.value).toBeCloseTo(0.12, 3);
    expect(found.liningKwh!.value).toBeCloseTo(110, 0);
  });

  it('finds a furnace again through an instrument’s noise: the temperature ten minutes on within 5 K', () => {
    const random = noise(20_260_305);
    const k = 0.0068;
    const heats = Array.from({ length: 12 }, () => {
      const first = 1160 + 30 * random();
      return heat([0, 4, 8, 12].map((minutes) => read(minutes, cooledTo(first, minutes, k) + 6 * random(), 'furnace')));
    });
    const { coolingPerMin } = learnFurnace(heats, USUAL);
    expect(Math.abs(cooledTo(1150, 10, coolingPerMin!.value) - cooledTo(1150, 10, k))).toBeLessThan(5);
    expect(coolingPerMin!.n).toBeGreaterThan(24);
  });

  it('has the handbook’s robust spread: 8.43 … 8.56 lie round 8.505 by 0.052', () => {
    const { value, spread, n } = learned([8.43, 8.46, 8.5, 8.51, 8.53, 8.56])!;
    expect([value.toFixed(3), spread.toFixed(3), n]).toEqual(['8.505', '0.052', 6]);
    expect(learned([])).toBeUndefined();
  });
});
