import type { Instant, Lane, PlanRow, Reach } from '@kalvet/core';
import { inWords } from '@kalvet/core';
import { endAt, breaksOf } from './move-breaks';
import { bar } from './pack-lane.spec';

const hour = (at: number): Instant => `2027-03-01T${String(at).padStart(2, '0')}:00:00.000Z`;
const says = { when: (at: Instant) => at.slice(11, 16), dayOf: (at: Instant) => at.slice(5, 10), words: inWords };
const own = bar('a', [[9, 11]]);
const lane = (rest: Partial<Lane> = {}): Lane => ({
  resourceId: 'r',
  name: 'Metal shop',
  kind: 'people',
  room: 'chasing',
  count: 2,
  open: [[hour(8), hour(16)]],
  bars: [own],
  ...rest,
});
const reach: Reach = {
  notBefore: { at: hour(9), because: 'Cut off' },
  endBy: { at: hour(13), before: 'Patina' },
  tooOldAt: null,
};
const row = (rest: Partial<PlanRow> = {}): PlanRow => ({
  pieceId: 'a',
  workId: 'w',
  title: 'Otter',
  mark: '3/8',
  state: 'in work',
  dueDate: '2027-03-05',
  finishesAt: '2027-03-05T08:00:00.000Z',
  likely: null,
  lateDays: 0,
  moved: null,
  spans: [],
  ...rest,
});
const breaks = (at: Instant, rest: Partial<Parameters<typeof breaksOf>[0]> = {}) =>
  breaksOf({ bar: own, lane: lane(), at, now: hour(7), zone: 'UTC', reach, rows: [row()], ...rest }, says);
const texts = (...given: Parameters<typeof breaks>) => breaks(...given).map(({ text }) => text);

describe('what moving work breaks', () => {
  it('is nothing within its reach: it ends as much later as it begins', () => {
    expect(endAt(own, hour(11))).toBe(hour(13));
    expect(breaks(hour(11))).toEqual([]);
  });

  it('is forbidden before what comes first, in the past, where it has begun, or is set up elsewhere', () => {
    expect(breaks(hour(8))).toEqual([{ text: 'Not before 09:00: Cut off.', isHard: true }]);
    expect(texts(hour(10), { now: hour(11) })).toEqual(['That hour lies behind us.']);
    for (const rest of [{ isRunning: true }, { isSet: true }])
      expect(breaks(hour(10), { bar: { ...own, ...rest } }).filter(({ isHard }) => isHard).length).toBe(1);
  });

  it('puts off what follows, and says which piece becomes late by it', () => {
    // Ends at 15:00, two hours after patina begins; out on the fifth at ten, when it is due.
    expect(texts(hour(13))).toEqual(['Patina comes 2 h later.']);
    const tight = row({ finishesAt: '2027-03-05T23:00:00.000Z' });
    expect(texts(hour(13), { rows: [tight] })).toEqual([
      'Patina comes 2 h later.',
      'Otter 3/8 is out about 03-06 then: late.',
    ]);
    expect(texts(hour(13), { rows: [row({ dueDate: null })] })).toEqual(['Patina comes 2 h later.']);
  });

  it('names who is taken then, and says where nobody works', () => {
    const busy = lane({ count: 1, bars: [own, bar('b', [[10, 12]]), bar('c', [[11, 13]]), bar('d', [[12, 13]])] });
    expect(texts(hour(11), { lane: busy })).toEqual([
      'It is taken then: Chase metal · Otter b, Chase metal · Otter c go later.',
    ]);
    // Two at work at once have room for one more beside one.
    expect(texts(hour(11), { lane: { ...busy, count: 3 } })).toEqual([]);
    expect(texts(hour(10), { lane: lane({ open: [[hour(12), hour(16)]] }) })).toEqual([
      'Nobody works there at that hour.',
    ]);
    expect(texts(hour(10), { lane: lane({ open: null }) })).toEqual([]);
    expect(texts(hour(10), { reach: { ...reach, tooOldAt: { at: hour(9), because: 'Dip coat 2' } } })).toEqual([
      'Too late after Dip coat 2: by 09:00.',
    ]);
  });
});
