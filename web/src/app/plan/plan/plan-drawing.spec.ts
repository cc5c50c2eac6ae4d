import type { PlanRow } from '@kalvet/core';
import { axisOf, dayBegins, reach, roomLoads, rowWords, visibleRows } from './plan-drawing';

const row = (rest: Partial<PlanRow> = {}): PlanRow => ({
  pieceId: 'p',
  workId: 'w',
  title: 'Otter',
  mark: '3/8',
  state: 'in work',
  dueDate: null,
  finishesAt: null,
  likely: null,
  lateDays: 0,
  moved: null,
  spans: [],
  ...rest,
});
const NOW = '2027-03-01T10:00:00.000Z';

describe('the drawing of a plan', () => {
  it('reaches from before now to after the last end or due date, a year at least', () => {
    const [from, to] = reach({ now: NOW, rows: [] }, axisOf('UTC'));
    expect(from.toISOString()).toBe('2027-02-26T10:00:00.000Z');
    // A year can be looked at, and a week behind it.
    expect((to.getTime() - from.getTime()) / 86_400_000).toBe(372);
    const [, far] = reach(
      { now: NOW, rows: [row({ dueDate: '2028-09-01', finishesAt: '2027-05-01T00:00:00.000Z' })] },
      axisOf('UTC'),
    );
    expect(far.toISOString().slice(0, 10)).toBe('2028-09-09');
    const likely = { evenAt: '2027-05-04T00:00:00.000Z', ninetyAt: '2028-10-01T00:00:00.000Z' };
    const [, farther] = reach(
      { now: NOW, rows: [row({ finishesAt: '2027-05-01T00:00:00.000Z', likely })] },
      axisOf('UTC'),
    );
    expect(farther.toISOString().slice(0, 10)).toBe('2028-10-08');
  });

  it('counts the pieces in a room at every moment', () => {
    const day = (n: number) => `2027-03-${String(n).padStart(2, '0')}T00:00:00.000Z`;
    const loads = roomLoads(
      [
        row({ spans: [['shell', day(1), day(5)]] }),
        row({
          spans: [
            ['shell', day(3), day(5)],
            ['pour', day(6), day(7)],
          ],
        }),
      ],
      axisOf('UTC'),
    );
    expect(loads.map(({ room, most }) => [room, most])).toEqual([
      ['shell', 2],
      ['pour', 1],
    ]);
    // One from the first, two from the third; both leave at once.
    expect(loads[0]!.steps.map(({ at, count }) => [new Date(at).getUTCDate(), count])).toEqual([
      [1, 1],
      [3, 2],
      [5, 0],
    ]);
  });

  it('has the shop’s clock for its axis: a day’s line stands where the shop’s day begins', () => {
    // Auckland is 13 hours ahead of UTC in March: its 2 March begins at 11:00 UTC on the first.
    expect(axisOf('Pacific/Auckland')('2027-03-01T11:00:00.000Z')).toBe(dayBegins('2027-03-02'));
    expect(axisOf('Europe/London')('2027-07-01T23:00:00.000Z')).toBe(dayBegins('2027-07-02'));
  });

  it('draws only the rows in sight and a few beyond', () => {
    expect(visibleRows(400, 26, 0, 520)).toEqual([0, 32]);
    // Rows 100 to 120 are in sight; drawn by eights, with eight more on each side, wherever within an eight it stands.
    expect(visibleRows(400, 26, 2600, 520)).toEqual([88, 128]);
    expect(visibleRows(400, 26, 2500, 520)).toEqual([88, 128]);
    expect(visibleRows(3, 26, 0, 520)).toEqual([0, 3]);
  });

  it('says each row in words', () => {
    const day = { dayOf: (instant: string) => instant.slice(5, 10), day: (of: string) => of.slice(5) };
    expect(rowWords(row(), day)).toBe('Otter 3/8: not planned, no due date');
    expect(rowWords(row({ finishesAt: '2027-04-02T10:00:00.000Z', dueDate: '2027-04-01', lateDays: 1 }), day)).toBe(
      'Otter 3/8: out 04-02, due 04-01, 1 day late',
    );
    const likely = { evenAt: '2027-04-03T10:00:00.000Z', ninetyAt: '2027-04-12T10:00:00.000Z' };
    expect(rowWords(row({ finishesAt: '2027-04-02T10:00:00.000Z', likely }), day)).toBe(
      'Otter 3/8: out 04-02, nine chances in ten by 04-12, no due date',
    );
  });
});
