import { alloyOf } from '../materials/alloys.ts';
import type { Quantity } from '../units/quantity.ts';
import { meltEnergyKJPerKg, meltMinutes } from './melt-minutes.ts';

describe('melting', () => {
  it('takes the energy and the time of the handbook’s example', () => {
    const tin = alloyOf('C90500');
    // 20 → 1150 °C: 640.0 kJ/kg; 100 kg hold 17.78 kWh.
    expect(meltEnergyKJPerKg(tin, 1150)).toBeCloseTo(640.0, 1);
    const melt = meltMinutes(100, tin, { powerKw: 100, efficiency: 0.12 }, 1150);
    expect((melt.inputs['held'] as Quantity).value).toBeCloseTo(17.78, 2);
    // 17.78 ÷ 0.12 ÷ 100 h.
    expect(melt.value).toBeCloseTo(88.9, 1);
    expect(() => meltEnergyKJPerKg(tin, 900)).toThrowError(RangeError);
  });
});
