import type { HoldKind, WhyLink } from '@kalvet/core';
import { waitsOf, whyRows } from './why-rows';

const link = (hold: HoldKind, waitsFrom: string, startsAt: string, endsAt: string): WhyLink => ({
  stepId: null,
  what: 'step',
  room: null,
  waitsFrom: `2027-03-${waitsFrom}:00.000Z`,
  startsAt: `2027-03-${startsAt}:00.000Z`,
  endsAt: `2027-03-${endsAt}:00.000Z`,
  hold,
  words: '',
});

describe('the chain that holds a piece, drawn', () => {
  const links = [
    link('free', '01T08:00', '01T08:00', '01T12:00'),
    link('wait', '01T12:00', '02T12:00', '02T14:00'),
    link('hands', '02T14:00', '03T08:00', '03T08:00'),
  ];

  it('runs from its first wait to its last end, each row with its wait before its work', () => {
    // Two days from the 1st at 8:00 to the 3rd at 8:00: an hour is 100/48 per cent.
    const rows = whyRows({ links });
    const hour = 100 / 48;
    expect(rows.map(({ waitAt, workAt, workWidth }) => [waitAt, workAt, workWidth].map((each) => each / hour))).toEqual(
      [
        [0, 0, jasmine.any(Number)],
        [4, 28, jasmine.any(Number)],
        [30, 48, jasmine.any(Number)],
      ],
    );
    expect(rows[0]!.workWidth / hour).toBeCloseTo(4, 9);
    expect(whyRows({ links: [] })).toEqual([]);
  });

  it('says what the waits come to, the longest first; what waits for nothing is none', () => {
    expect(waitsOf([...links, link('hands', '03T08:00', '03T20:00', '04T08:00')])).toEqual([
      { hold: 'hands', minutes: 30 * 60 },
      { hold: 'wait', minutes: 24 * 60 },
    ]);
  });
});
