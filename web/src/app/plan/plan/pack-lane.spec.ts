import type { LaneBar } from '@kalvet/core';
import { packLane } from './pack-lane';

const at = (instant: string) => Date.parse(instant) / 3_600_000;
const day = (hour: number) => `2027-03-01T${String(hour).padStart(2, '0')}:00:00.000Z`;
export const bar = (
  name: string,
  spells: readonly (readonly [number, number])[],
  rest: Partial<LaneBar> = {},
): LaneBar => ({
  name,
  steps: [{ id: name, version: 1, pinKind: null, pinAt: null }],
  kind: 'chase-metal',
  what: 'Chase metal',
  on: `Otter ${name}`,
  pieceIds: [name],
  spells: spells.map(([from, to]) => [day(from), day(to)] as const),
  isRunning: false,
  isSet: false,
  full: null,
  ...rest,
});
const rowsOf = (bars: readonly LaneBar[]) =>
  packLane({ bars, open: null }, at).placed.map((each) => [each.bar.name, each.row]);

describe('work packed on the rows of its lane', () => {
  it('takes as many rows as are at work at once', () => {
    expect(rowsOf([bar('a', [[8, 10]]), bar('b', [[9, 12]]), bar('c', [[10, 11]])])).toEqual([
      ['a', 0],
      ['b', 1],
      // The first row is free again at ten.
      ['c', 0],
    ]);
    expect(packLane({ bars: [], open: null }, at)).toEqual({ placed: [], rows: 0 });
  });

  it('goes on in its row where it was laid down for a pour, if that is free, and says where it begins', () => {
    const long = bar('long', [
      [8, 10],
      [12, 14],
    ]);
    const { placed, rows } = packLane(
      { bars: [bar('other', [[8, 15]]), long, bar('pour', [[10, 12]])], open: null },
      at,
    );
    expect(rows).toBe(2);
    const own = placed.filter((each) => each.bar === long);
    expect(own.map(({ row, isFirst }) => [row, isFirst])).toEqual([
      [own[0]!.row, true],
      [own[0]!.row, false],
    ]);
  });

  it('is one spell where nobody works between two, and two where somebody does', () => {
    const parts = bar('a', [
      [8, 10],
      [10, 12],
      [13, 15],
    ]);
    const spells = (open: readonly (readonly [string, string])[]) =>
      packLane({ bars: [parts], open }, at).placed.map(({ from, to }) => to - from);
    // A break from twelve to one.
    expect(
      spells([
        [day(8), day(12)],
        [day(13), day(16)],
      ]),
    ).toEqual([7]);
    expect(spells([[day(8), day(16)]])).toEqual([4, 2]);
  });
});
