import { fromPicker, toPicker } from './time';

describe('a date picker in the shop’s hours', () => {
  it('reads what is picked as the shop’s hour, wherever the browser stands, also round a clock change', () => {
    for (const zone of ['Europe/London', 'Pacific/Auckland', 'America/St_Johns']) {
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
