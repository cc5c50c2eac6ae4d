import type { OrderPiece, OrderView } from '@kalvet/core';
import { orderChart } from './order-line';

const piece = (pieceId: string, plannedFinish: string | null, rest: Partial<OrderPiece> = {}): OrderPiece =>
  ({ pieceId, plannedFinish, deliveredAt: null, ...rest }) as OrderPiece;
const order = (pieces: readonly OrderPiece[], rest: Partial<OrderView> = {}): OrderView =>
  ({ id: 'o-1', dueDate: '2027-03-22', readyAt: null, pieces, ...rest }) as OrderView;

describe('the line of days on which orders are drawn', () => {
  it('has the promise after the pieces that are out before it, and each on the shop’s own day', () => {
    const { lines, today } = orderChart(
      // Half past eleven at night in London in summer time is the next day there.
      [order([piece('a', '2027-03-20T10:00:00.000Z'), piece('b', '2027-03-28T23:30:00.000Z')])],
      '2027-03-01',
      'Europe/London',
    );
    const [line] = lines;
    // From 19 February to 2 April: 42 days across.
    expect(today).toBeCloseTo((10 / 42) * 100, 6);
    expect(line!.placed[0]!.at).toBeCloseTo((29 / 42) * 100, 6);
    expect(line!.placed[1]!.at).toBeCloseTo((38 / 42) * 100, 6);
    expect(line!.promise).toBeCloseTo((31 / 42) * 100, 6);
  });

  it('lets no disc cover another, and leaves those without a date beside', () => {
    const day = (date: string) => `2027-03-${date}T10:00:00.000Z`;
    const { lines } = orderChart(
      [order([piece('a', day('20')), piece('b', day('20')), piece('c', day('21')), piece('d', null)])],
      '2027-03-01',
      'UTC',
    );
    expect(lines[0]!.placed.map(({ lane }) => lane)).toEqual([0, 1, 2]);
    expect(lines[0]!.beside.map(({ pieceId }) => pieceId)).toEqual(['d']);
    expect(lines[0]!.lanes).toBe(3);
  });

  it('names a week now and then where the orders reach far', () => {
    const { weeks } = orderChart([order([piece('a', '2027-12-20T10:00:00.000Z')])], '2027-03-01', 'UTC');
    expect(weeks.length).toBeGreaterThan(4);
    expect(weeks.length).toBeLessThan(11);
  });
});
