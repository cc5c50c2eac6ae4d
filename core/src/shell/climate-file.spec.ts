import { inWords } from '../units/words.ts';
import type { ClimateFile } from './climate-file.ts';
import { climateFile } from './climate-file.ts';

const ZONE = 'Europe/London';
const rows = (text: string) => text.split('\n').map((line) => line.split(';'));
const read = (text: string) => climateFile(rows(text), ZONE) as ClimateFile;
const wrong = (text: string) => {
  const found = climateFile(rows(text), ZONE);
  return 'wrong' in found ? inWords(found.wrong) : 'read';
};

describe('a data logger’s file', () => {
  it('is read by the heads of its columns, commas and all, in the shop’s time', () => {
    const file = read(
      'Logger 7\nDate;Time;Temp °C;RH %;Dew point\n2027-07-01;08:00;21,8;52,0;11,4\n01.07.2027;08:15;22;51;11',
    );
    expect(file.readings).toEqual([
      { at: '2027-07-01T07:00:00.000Z', celsius: 21.8, humidityPercent: 52 },
      { at: '2027-07-01T07:15:00.000Z', celsius: 22, humidityPercent: 51 },
    ]);
    expect(file.left).toEqual([]);
  });

  it('takes °F where the head says so or nothing else can be meant, and says so', () => {
    const file = read('timestamp;Temperature;Humidity\n2027-03-01T08:00:00Z;71.6;50\n2027-03-01T09:00:00Z;72.5;50');
    expect(file.readings[0]!.celsius).toBeCloseTo(22, 2);
    expect(inWords(file.notes[0]!)).toContain('°F');
    expect(wrong('timestamp;temp °C;RH\n2027-03-01T08:00:00Z;71.6;50')).toContain('can only be °F');
  });

  it('refuses columns that were swapped', () => {
    expect(wrong('timestamp;t;%\n2027-03-01T08:00:00Z;52;21.5\n2027-03-01T08:15:00Z;53;21.6')).toContain('swapped');
    expect(wrong('a;b;c\n1;2;3')).toContain('No line names its columns');
  });

  it('knows that an hour comes twice when the clocks go back, and is missing when they go forward', () => {
    const autumn = read(
      'time;°C;%RH\n31/10/2027 00:30;20;60\n31/10/2027 01:15;20;60\n31/10/2027 01:45;20;60\n31/10/2027 01:15;20;61\n31/10/2027 01:45;20;61\n31/10/2027 02:15;20;62',
    );
    expect(autumn.readings.map(({ at }) => at.slice(11, 16))).toEqual([
      '23:30',
      '00:15',
      '00:45',
      '01:15',
      '01:45',
      '02:15',
    ]);
    expect(inWords(autumn.notes[0]!)).toContain('2 readings');
    const spring = read('time;°C;%RH\n28/03/2027 00:45;20;60\n28/03/2027 02:15;20;60');
    expect(spring.readings.map(({ at }) => at.slice(11, 16))).toEqual(['00:45', '01:15']);
  });

  it('leaves out what cannot be, line by line, and keeps the rest', () => {
    const file = read(
      'time;°C;%RH\n2027-03-01T08:00:00Z;21;55\n2027-03-01T08:15:00Z;21;0\n2027-03-01T08:30:00Z;---;55\nyesterday;21;55\n2027-03-01T09:00:00Z;21;100',
    );
    expect(file.readings.length).toBe(2);
    expect(file.left.map(({ line, why }) => `${line} ${inWords(why)}`)).toEqual([
      '3 0 % cannot be: the sensor is broken or not connected',
      '4 is no number',
      '5 no time that can be read',
    ]);
  });

  it('reads months first where a day above 12 shows it', () => {
    const file = read('time;°C;%RH\n03/01/2027 08:00;21;55\n03/14/2027 2:30 pm;21;55');
    expect(file.readings.map(({ at }) => at.slice(0, 16))).toEqual(['2027-03-01T08:00', '2027-03-14T14:30']);
  });
});
