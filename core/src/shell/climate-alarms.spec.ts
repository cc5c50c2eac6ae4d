import type { KeptClimate } from '../records/climate.ts';
import { addMinutes } from '../units/instant.ts';
import { inWords } from '../units/words.ts';
import { climateAlarms } from './climate-alarms.ts';
import { wrongClimate } from './judge-climate.ts';

const NOW = '2027-03-01T12:00:00.000Z';
const was = (
  minutesAgo: number,
  celsius: number,
  humidityPercent: number,
  source: KeptClimate['source'] = 'sensor',
) => ({
  ...{ placeId: 'room', source, at: addMinutes(NOW, -minutesAgo), celsius, humidityPercent },
});
const codes = (readings: readonly KeptClimate[], green = true) =>
  climateAlarms(readings, NOW, green).map(({ code }) => code);

describe('what somebody should know of the air', () => {
  it('is nothing where a room is as it should be', () => {
    expect(codes([was(120, 21.5, 52), was(60, 22, 50), was(5, 22, 51)])).toEqual([]);
    expect(codes([])).toEqual([]);
  });

  it('is a wet bulb less than 2 K below, and air that is full', () => {
    // 20 °C, 84 %: 1.8 K; 85 % at 24 °C: 1.9 K.
    expect(codes([was(5, 20, 84)])).toEqual(['damp']);
    expect(codes([was(5, 20, 82)])).toEqual([]);
    expect(codes([was(5, 20, 100)])).toEqual(['nothing dries']);
  });

  it('is more than 2 K within two hours, where green shells hang', () => {
    const jump = [was(200, 19, 50), was(90, 20, 50), was(5, 22.4, 45)];
    expect(codes(jump)).toEqual(['jump']);
    expect(codes(jump, false)).toEqual([]);
    expect(codes([was(200, 19, 50), was(100, 21, 50), was(5, 22.4, 45)])).toEqual([]);
  });

  it('is a sensor that is silent or hangs; what was typed holds for a shift', () => {
    expect(codes([was(50, 22, 50)])).toEqual(['silent']);
    expect(codes([was(50, 22, 50, 'typed')])).toEqual([]);
    const [silent] = climateAlarms([was(25 * 60, 22, 50, 'typed')], NOW, true);
    expect(inWords(silent!.says)).toContain('1 day 1 h');
    const hangs = Array.from({ length: 60 }, (_, i) => was((60 - i) * 15, 21.7, 55.3));
    expect(codes(hangs)).toEqual(['stuck']);
    expect(codes([...hangs.slice(0, 50), was(10, 21.8, 55.3)])).toEqual([]);
  });
});

describe('what was read of a room', () => {
  it('is refused where it cannot be, with what it may have been', () => {
    expect(wrongClimate({ celsius: 22, humidityPercent: 50 })).toEqual({});
    expect(wrongClimate({ celsius: 20, humidityPercent: 100 })).toEqual({});
    const says = (celsius: number, humidityPercent: number) =>
      Object.entries(wrongClimate({ celsius, humidityPercent })).map(([field, text]) => `${field} ${inWords(text)}`)[0];
    expect(says(55, 21)).toContain('celsius 55 °C and 21 %: were the two swapped?');
    expect(says(72, 50)).toContain('is it in °F?');
    expect(says(22, 0)).toContain('humidityPercent 0 % cannot be');
    expect(says(22, 104)).toContain('no more than 100 %');
    expect(says(-20, 50)).toContain('cannot be');
  });
});
