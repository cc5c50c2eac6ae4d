import type { DayLine } from '@kalvet/core';
import { nextStep } from '../../testing/pieces';
import { dueOf, roomSheets, sheetWords } from './day-groups';

const NOW = '2027-03-01T10:00:00.000Z';
const DAY_END = '2027-03-02T00:00:00.000Z';
const line = (rest: Partial<DayLine> = {}): DayLine => ({
  ...nextStep({}),
  version: 1,
  through: null,
  plannedStart: null,
  plannedEnd: null,
  load: null,
  pieceIds: ['p'],
  late: false,
  after: false,
  ...rest,
});
const due = (rest: Partial<DayLine>) => dueOf(line(rest), NOW, DAY_END);

describe('how a step stands on the day’s sheet', () => {
  it('can begin now where nothing holds it back', () => {
    expect(due({})).toBe('now');
    expect(due({ readyAt: '2027-03-01T09:59:00.000Z' })).toBe('now');
  });

  it('comes due at the later of dry and planned', () => {
    expect(due({ readyAt: '2027-03-01T10:01:00.000Z' })).toBe('today');
    expect(due({ readyAt: '2027-03-01T09:00:00.000Z', plannedStart: '2027-03-01T15:00:00.000Z' })).toBe('today');
    expect(due({ plannedStart: '2027-03-02T08:00:00.000Z' })).toBe('other day');
  });

  it('is overdue once it is too old, and today where it would be too old before tomorrow', () => {
    expect(due({ tooOldAt: '2027-03-01T09:59:00.000Z' })).toBe('overdue');
    // Planned for tomorrow, but the coat below is too old by tonight.
    expect(due({ plannedStart: '2027-03-02T08:00:00.000Z', tooOldAt: '2027-03-01T20:00:00.000Z' })).toBe('today');
  });

  it('waits where something comes before it or its piece is held, whatever the plan says', () => {
    expect(due({ waits: ['Pull'], tooOldAt: '2027-03-01T09:00:00.000Z' })).toBe('waits');
    expect(due({ held: true })).toBe('waits');
  });

  it('is begun until the plan’s end has passed', () => {
    expect(due({ state: 'running', plannedEnd: '2027-03-01T11:00:00.000Z' })).toBe('running');
    expect(due({ state: 'running', plannedEnd: '2027-03-01T09:00:00.000Z' })).toBe('overdue');
  });
});

describe('the sheets of the rooms', () => {
  it('stand in the order of the work, overdue first, then by the hour, late pieces before others', () => {
    const sheets = roomSheets(
      [
        line({ stepId: 'b', room: 'shell', on: 'T-10' }),
        line({ stepId: 'a', room: 'shell', on: 'T-9' }),
        line({ stepId: 'late', room: 'shell', on: 'T-11', late: true }),
        line({ stepId: 'old', room: 'shell', tooOldAt: '2027-03-01T08:00:00.000Z' }),
        line({ stepId: 'wax', room: 'wax', kind: 'pull' }),
        line({ stepId: 'held', room: 'shell', held: true }),
      ],
      NOW,
      DAY_END,
    );
    expect(sheets.map(({ room }) => room)).toEqual(['wax', 'shell']);
    expect(sheets[1]!.lines.map(({ line: { stepId } }) => stepId)).toEqual(['old', 'late', 'a', 'b']);
    expect([sheets[1]!.waiting, sheetWords(sheets[1]!)]).toEqual([1, '1 overdue · 3 now']);
  });

  it('say nothing of a room where nothing is, and "nothing due" where all waits', () => {
    expect(roomSheets([], NOW, DAY_END)).toEqual([]);
    const [sheet] = roomSheets([line({ waits: ['Pull'] })], NOW, DAY_END);
    expect(sheetWords(sheet!)).toBe('nothing due');
  });
});
