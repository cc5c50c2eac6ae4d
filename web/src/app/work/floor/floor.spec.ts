import { floorPiece, floorWork } from '../../testing/pieces';
import { filterFrom, filterWorks, queryOf } from './floor.filter';
import { rowLayout } from './row-layout';

describe('a row of the Floor', () => {
  it('puts a disc in the room of the section furthest behind, its tail reaching the one furthest ahead', () => {
    const { discs } = rowLayout([floorPiece(3, ['shell', 'wax', 'pour'])]);
    expect(discs.map(({ column, tail }) => [column, tail])).toEqual([[1, 4]]);
  });

  it('shows three of a full cell and the rest as a number, never hiding what is late or wants a decision', () => {
    const pieces = [1, 2, 3, 4, 5, 6].map((number) => floorPiece(number, ['wax']));
    pieces[5] = floorPiece(6, ['wax'], { late: true });
    pieces[4] = floorPiece(5, ['wax'], {
      decisions: [{ text: 'heavy', urgent: true, costs: '', days: 1, answers: [] }],
    });
    const { discs, more } = rowLayout(pieces);
    expect(discs.map(({ piece }) => piece.number)).toEqual([6, 5, 1]);
    expect(more.map(({ column, pieces: rest }) => [column, rest.length])).toEqual([[1, 3]]);
  });

  it('keeps the discs of a cell apart', () => {
    const { discs } = rowLayout([1, 2, 3].map((number) => floorPiece(number, ['shell'])));
    const offsets = discs.map(({ offsetPx }) => offsetPx).sort((a, b) => a - b);
    expect(offsets[1]! - offsets[0]!).toBeGreaterThanOrEqual(32);
    expect(offsets.reduce((sum, x) => sum + x, 0)).toBe(0);
  });
});

describe('the filter', () => {
  const works = [
    floorWork([floorPiece(1, ['wax']), floorPiece(2, ['shell', 'wax'], { state: 'hold' })]),
    floorWork([floorPiece(3, ['pour'], { late: true })], { id: 'work-2' }),
    floorWork([], { id: 'work-3' }),
  ];
  const numbers = (query: Record<string, string>) =>
    filterWorks(works, filterFrom(query)).map(({ pieces }) => pieces.map(({ number }) => number));

  it('lets through by work, room, hold and late', () => {
    expect(numbers({})).toEqual([[1, 2], [3], []]);
    expect(numbers({ work: 'work-2' })).toEqual([[3]]);
    expect(numbers({ room: 'shell' })).toEqual([[2]]);
    expect(numbers({ hold: '1' })).toEqual([[2]]);
    expect(numbers({ late: '1' })).toEqual([[3]]);
    expect(numbers({ room: 'cellar' })).toEqual([[1, 2], [3], []]);
  });

  it('is the same after a walk through the address', () => {
    const filter = filterFrom({ work: 'work-2', room: 'pour', late: '1' });
    expect(filterFrom(queryOf(filter))).toEqual(filter);
  });
});
