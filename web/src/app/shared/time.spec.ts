import { formatInstant, formatWhen, fromPicker, toPicker } from './time';

const LONDON = 'Europe/London';

describe('the shop’s clock', () => {
  it('says times as a person does, in the shop’s zone', () => {
    // 1 July is summer time in London: 09:40 UTC is 10:40 there.
    const now = '2027-07-01T09:00:00.000Z';
    expect(formatWhen('2027-07-01T09:40:00.000Z', now, LONDON)).toBe('10:40 today');
    expect(formatWhen('2027-07-01T23:30:00.000Z', now, LONDON)).toBe('00:30 tomorrow');
    expect(formatWhen('2027-06-30T09:40:00.000Z', now, LONDON)).toBe('10:40 yesterday');
    expect(formatWhen('2027-07-05T09:40:00.000Z', now, LONDON)).toBe('Mon 10:40');
    expect(formatWhen('2028-05-14T09:40:00.000Z', now, LONDON)).toBe('14 May 2028 10:40');
    expect(formatInstant('2027-01-14T10:40:00.000Z', LONDON)).toBe('14 Jan 2027, 10:40');
  });

  it('reads what is picked as the shop’s hour, wherever the browser stands, also round a clock change', () => {
    for (const zone of [LONDON, 'Pacific/Auckland', 'America/St_Johns']) {
      for (const instant of [
        '2027-03-28T00:30:00.000Z',
        '2027-03-28T01:30:00.000Z',
        '2027-07-01T12:00:00.000Z',
        '2027-10-31T02:15:00.000Z',
      ])
        expect(fromPicker(toPicker(instant, zone), zone))
          .withContext(`${zone} ${instant}`)
          .toBe(instant);
    }
  });
});
