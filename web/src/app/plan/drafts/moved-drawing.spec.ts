import type { DraftPiece } from '@kalvet/core';
import { toMs } from '@kalvet/core';
import { scaleLinear } from 'd3';
import { fateOf, mondays, movedPicture } from './moved-drawing';

const piece = (rest: Partial<DraftPiece> = {}): DraftPiece => ({
  pieceId: 'p',
  label: 'Otter 1/3',
  isNew: false,
  dueDate: '2027-03-10',
  before: '2027-03-08T12:00:00.000Z',
  after: '2027-03-12T12:00:00.000Z',
  lateBefore: 0,
  lateAfter: 2,
  likely: null,
  ...rest,
});

describe('what a draft does to the dates, drawn', () => {
  it('tells whether a piece becomes late or is saved before it tells which way it moves', () => {
    expect(fateOf(piece())).toBe('late');
    expect(fateOf(piece({ lateAfter: 0 }))).toBe('later');
    expect(fateOf(piece({ lateBefore: 3, lateAfter: 0, after: '2027-03-02T12:00:00.000Z' }))).toBe('saved');
    expect(fateOf(piece({ lateBefore: 3, lateAfter: 1, after: '2027-03-02T12:00:00.000Z' }))).toBe('sooner');
    expect(fateOf(piece({ isNew: true, before: null }))).toBe('new');
    // Held without a day: it is not in the plan any more, and nothing is saved by that.
    expect(fateOf(piece({ lateBefore: 3, lateAfter: 0, after: null }))).toBe('same');
  });

  it('places where a piece was, where it would be and when it is due by the day, today always in sight', () => {
    const dayOf = (instant: string) => toMs(instant) / 86_400_000;
    const today = dayOf('2027-03-01T00:00:00.000Z');
    const { rows, x, height } = movedPicture([piece(), piece({ before: null })], dayOf, {
      width: 160,
      rowPx: 20,
      today,
    });
    // From two days before today to two after the 12th at noon: 15.5 days on 160 px.
    const perDay = 160 / 15.5;
    const [first, second] = rows;
    expect(first!.before).toBeCloseTo(9.5 * perDay, 6);
    expect(first!.after).toBeCloseTo(13.5 * perDay, 6);
    // Due on the 10th: in time until its end.
    expect(first!.due).toBeCloseTo(12 * perDay, 6);
    expect([second!.before, second!.y, height]).toEqual([null, 30, 40]);
    expect(x(today)).toBeCloseTo(2 * perDay, 6);
  });

  it('writes at Mondays, as many weeks apart as the words need, and none beyond the edge', () => {
    // Day 20,700 is Friday 4 Sep 2026; the next Monday is the 7th, day 20,703. Ten px a day, 100 px of words: two weeks.
    const x = scaleLinear([20_700, 20_750], [0, 500]);
    expect(mondays(x, 100)).toEqual([
      [30, 20_703],
      [170, 20_717],
      [310, 20_731],
    ]);
    expect(new Date(20_703 * 86_400_000).getUTCDay()).toBe(1);
  });
});
