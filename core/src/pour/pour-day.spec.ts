import type { DayHeat } from './pour-day.ts';
import { pourDay, soakMinutes, withoutKilnPlace } from './pour-day.ts';

const FIGURES = { preheatMinutes: 150, minutesATree: 2, skimMinutes: 10, pigMinutes: 10, lookAfterMinutes: 45 };
const tree = (treeId: string, shellMm: number | null = 9) => ({ treeId, label: treeId, shellMm, outS: 60 });
const heat: DayHeat = {
  heatId: 'h',
  label: 'H-1',
  pourAt: '2026-12-03T13:00:00.000Z',
  lightAt: '2026-12-03T10:20:00.000Z',
  meltMinutes: 100,
  trees: [tree('a'), tree('b', null)],
};
const hours = (at: string) => at.slice(11, 16);

describe('a pour day on one axis', () => {
  it('goes from the first shell in the kiln to the last early look', () => {
    const day = pourDay([heat], FIGURES);
    expect(day.map(({ part, from, to, treeId }) => [part, hours(from), hours(to), treeId])).toEqual(
      [
        // Out a minute before its metal, in two and a half hours before that.
        ['preheat', '10:29', '12:59', 'a'],
        ['lining', '10:20', '11:20', null],
        ['melt', '11:20', '12:50', null],
        ['skim', '12:50', '13:00', null],
        ['pour', '13:00', '13:02', 'a'],
        ['pour', '13:02', '13:04', 'b'],
        ['pig', '13:04', '13:14', null],
        ['look', '13:45', '14:00', 'a'],
        ['look', '13:47', '14:02', 'b'],
      ].sort((x, y) => x[1]!.localeCompare(y[1]!)),
    );
  });

  it('soaks thick shells longer and thin ones shorter, two to four hours of two and a half', () => {
    expect([5, 9, 12, 30].map((mm) => soakMinutes(150, mm))).toEqual([120, 150, 200, 240]);
  });

  it('names the shells that find no place in the kiln', () => {
    const day = pourDay([{ ...heat, trees: [tree('a'), tree('b'), tree('c')] }], FIGURES);
    expect([...withoutKilnPlace(day, 2)]).toEqual(['c']);
    expect(withoutKilnPlace(day, 3).size).toBe(0);
  });
});
