import { METRIC } from './system.ts';
import {
  formatDay,
  formatInstant,
  formatPlanned,
  formatWhen,
  instantAt,
  shopReader,
  wallMsOf,
  wallTimeOf,
} from './shop-clock.ts';
import { at, inWords, onDay, say } from './words.ts';

const LONDON = 'Europe/London';

describe('the shop’s clock', () => {
  it('says times as a person does, in the shop’s zone', () => {
    // 1 July is summer time in London: 09:40 UTC is 10:40 there.
    const today = '2027-07-01';
    expect(formatWhen('2027-07-01T09:40:00.000Z', today, LONDON)).toBe('10:40 today');
    expect(formatWhen('2027-07-01T23:30:00.000Z', today, LONDON)).toBe('00:30 tomorrow');
    expect(formatWhen('2027-06-30T09:40:00.000Z', today, LONDON)).toBe('10:40 yesterday');
    // Beyond tomorrow and yesterday a weekday alone would be either of two.
    expect(formatWhen('2027-07-05T09:40:00.000Z', today, LONDON)).toBe('Mon 5 Jul 10:40');
    expect(formatWhen('2027-06-29T09:40:00.000Z', today, LONDON)).toBe('Tue 29 Jun 10:40');
    expect(formatWhen('2028-05-14T09:40:00.000Z', today, LONDON)).toBe('Sun 14 May 2028 10:40');
    expect(formatInstant('2027-01-14T10:40:00.000Z', LONDON)).toBe('Thu 14 Jan 2027, 10:40');
    expect(formatDay('2027-07-02', today)).toBe('Fri 2 Jul');
  });

  it('says what is planned no more exactly than it is known', () => {
    expect(formatPlanned('2027-07-02T09:40:00.000Z', '2027-07-01', LONDON)).toBe('10:40 tomorrow');
    expect(formatPlanned('2027-07-05T09:40:00.000Z', '2027-07-01', LONDON)).toBe('Mon 5 Jul');
    expect(formatPlanned('2027-06-28T09:40:00.000Z', '2027-07-01', LONDON)).toBe('Mon 28 Jun');
  });

  it('prints the times inside a sentence by the zone of its reader', () => {
    const text = say`Dry ${at('2027-07-01T09:40:00.000Z')}, due ${onDay('2027-07-05')}`;
    expect(inWords(text, shopReader(LONDON, METRIC))).toBe('Dry Thu 1 Jul 2027, 10:40, due Mon 5 Jul 2027');
    expect(inWords(text, shopReader('Pacific/Auckland', METRIC, '2027-07-01'))).toBe('Dry 21:40 today, due Mon 5 Jul');
  });

  it('finds the instant of a wall time, also where the clocks change at midnight', () => {
    // Santiago puts its clocks forward at 00:00 on 5 September 2027: that day begins at 01:00, 04:00 UTC.
    expect(wallTimeOf('2027-09-05T04:00:00.000Z', 'America/Santiago')).toEqual({
      day: '2027-09-05',
      hour: 1,
      minute: 0,
    });
    expect(instantAt({ day: '2027-09-05', hour: 8, minute: 0 }, 'America/Santiago')).toBe('2027-09-05T11:00:00.000Z');
    // London, 31 October 2027: 01:30 comes twice; the first of both is meant.
    expect(instantAt({ day: '2027-10-31', hour: 1, minute: 30 }, LONDON)).toBe('2027-10-31T00:30:00.000Z');
  });

  it('has an axis without steps where the clocks change', () => {
    const [before, after] = ['2027-03-28T00:59:00.000Z', '2027-03-28T01:01:00.000Z'].map((at) => wallMsOf(at, LONDON));
    expect((after! - before!) / 60_000).toBe(62);
  });
});
