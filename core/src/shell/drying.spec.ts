// Check values of the handbook (2.4): the thirst of five climates, and drying that adds up.
import type { ClimateReading } from '../records/climate.ts';
import { addMinutes } from '../units/instant.ts';
import { REFERENCE_K, driedShare, dryAt, dryingAnHour } from './dried-share.ts';
import { dryingAir } from './drying-air.ts';
import { saturationHpa, wetBulb, wetBulbDepression } from './wet-bulb.ts';

const DIP = '2027-03-01T08:00:00.000Z';
const air = (hours: number, celsius: number, humidityPercent: number): ClimateReading => ({
  at: addMinutes(DIP, hours * 60),
  celsius,
  humidityPercent,
});
const OPEN = { referenceHours: 4, cavity: 1, airflow: 1 };
const hoursOf = (instant: string | null): number =>
  instant === null ? Infinity : (Date.parse(instant) - Date.parse(DIP)) / 3_600_000;

describe('the wet bulb', () => {
  it('is where evaporation and air agree', () => {
    expect(wetBulb(22, 50)).toBeCloseTo(15.49, 2);
    for (const [celsius, percent, kelvin] of [
      [22, 50, 6.51],
      [24, 60, 5.35],
      [20, 70, 3.53],
      [26, 40, 8.94],
      [20.2, 75, 2.92],
    ] as const)
      expect(wetBulbDepression(celsius, percent)).withContext(`${celsius} °C, ${percent} %`).toBeCloseTo(kelvin, 2);
    expect(wetBulbDepression(21, 100)).toBeCloseTo(0, 9);
    // Water boils at 100 °C at about the sea's pressure; the form is made for less heat.
    expect(saturationHpa(0)).toBeCloseTo(6.112, 9);
  });

  it('refuses temperature and humidity that were swapped', () => {
    expect(() => wetBulb(75, 20)).toThrowError(RangeError, /room temperature must be from -10 to 60/);
    expect(() => wetBulb(20, 120)).toThrowError(RangeError, /humidity/);
  });
});

describe('drying', () => {
  it('adds up: two hours of good air and then of damp make 5.69 h, not 4', () => {
    const climate = dryingAir([air(-1, 22, 50), air(2, 20, 70)], [])!;
    expect(driedShare(climate, OPEN, DIP, addMinutes(DIP, 120))).toBeCloseTo(0.5, 3);
    expect(hoursOf(dryAt(climate, OPEN, DIP))).toBeCloseTo(5.69, 2);
    expect(driedShare(climate, OPEN, DIP, dryAt(climate, OPEN, DIP)!)).toBeCloseTo(1, 3);
  });

  it('goes by cavity, draught and the shop’s own reference', () => {
    const climate = dryingAir([air(0, 22, 50)], [])!;
    expect(hoursOf(dryAt(climate, { ...OPEN, cavity: 3 }, DIP))).toBeCloseTo(12, 1);
    // Four times the draught: half the time.
    expect(hoursOf(dryAt(climate, { ...OPEN, airflow: 0.5 }, DIP))).toBeCloseTo(2, 1);
    expect(dryingAnHour(air(0, 24, 60), { ...OPEN, referenceK: 5.35 })).toBeCloseTo(0.25, 3);
    expect(REFERENCE_K).toBeCloseTo(wetBulbDepression(22, 50), 2);
    // 20.2 °C, 75 %: 8.9 h instead of 4.
    expect(hoursOf(dryAt(dryingAir([air(0, 20.2, 75)], [])!, OPEN, DIP))).toBeCloseTo(8.92, 1);
  });

  it('follows what is expected of the room, and says where nothing dries', () => {
    const damp = [air(0, 20, 100)];
    expect(dryAt(dryingAir(damp, [])!, OPEN, DIP)).toBeNull();
    // It is aired after six hours.
    expect(hoursOf(dryAt(dryingAir(damp, [air(6, 22, 50)])!, OPEN, DIP))).toBeCloseTo(10, 1);
    // What was expected for a time that has been read since counts no more.
    expect(hoursOf(dryAt(dryingAir([air(0, 22, 50), air(3, 22, 50)], [air(1, 20, 100)])!, OPEN, DIP))).toBeCloseTo(
      4,
      1,
    );
    expect(() => driedShare(dryingAir([air(1, 22, 50)], [])!, OPEN, DIP, addMinutes(DIP, 90))).toThrowError(
      RangeError,
      /does not reach back/,
    );
    expect(driedShare(dryingAir([air(0, 22, 50)], [])!, OPEN, DIP, DIP)).toBe(0);
  });
});
