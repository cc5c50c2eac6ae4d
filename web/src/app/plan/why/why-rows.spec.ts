import type { HoldKind, WhyLink } from '@kalvet/core';
import { waitsOf, whyRows } from './why-rows';

const link = (hold: HoldKind, waitsFrom: string, startsAt: string, endsAt: string, own = true): WhyLink => ({
  stepId: null,
  what: 'step',
  room: null,
  own,
  waitsFrom: `2027-03-${waitsFrom}:00.000Z`,
  startsAt: `2027-03-${startsAt}:00.000Z`,
  endsAt: `2027-03-${endsAt}:00.000Z`,
  hold,
  words: '',
});

describe('the chain that holds a piece, drawn', () => {
  const other = link('hands', '01T20:00', '02T08:00', '02T12:00', false);
  const links = [
    link('free', '01T08:00', '01T08:00', '01T12:00'),
    other,
    link('hands', '01T12:00', '02T12:00', '02T14:00'),
    link('wait', '02T14:00', '03T08:00', '03T08:00'),
  ];

  it('shows its own steps, each with its wait before its work and with those that it waits behind', () => {
    // Two days from the 1st at 8:00 to the 3rd at 8:00: an hour is 100/48 per cent.
    const rows = whyRows({ links });
    const hour = 100 / 48;
    const places = rows.map(({ waitAt, workAt, behind }) => [waitAt / hour, workAt / hour, behind.length]);
    expect(places.flat().map((each) => Number(each.toFixed(6)))).toEqual([0, 0, 0, 4, 28, 1, 30, 48, 0]);
    expect(rows[0]!.workWidth / hour).toBeCloseTo(4, 9);
    expect(rows[1]!.behind).toEqual([other]);
    expect(whyRows({ links: [] })).toEqual([]);
  });

  it('counts every minute of waiting once, by what is waited for: while others work, what they have', () => {
    // From 12:00 on the 1st until 12:00 on the 2nd for hands, 20 h until they begin on another and 4 h on that; 18 h drying.
    expect(waitsOf(links)).toEqual([
      { hold: 'hands', minutes: 24 * 60 },
      { hold: 'wait', minutes: 18 * 60 },
    ]);
  });
});
