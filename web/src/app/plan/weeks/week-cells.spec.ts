import type { Lane } from '@kalvet/core';
import { bar } from '../plan/pack-lane.spec';
import { cellOf } from './week-cells';

const says = {
  dayOf: (at: string) => at.slice(0, 10),
  nameOf: (kind: string) => (kind === 'coat' ? 'Dip coat' : 'Chase metal'),
  hour: (at: string) => at.slice(11, 16),
};
const hour = (day: number, at: number) => `2027-03-0${day}T${String(at).padStart(2, '0')}:00:00.000Z`;
const lane = (rest: Partial<Lane>): Lane => ({
  resourceId: 'r',
  name: 'Metal shop',
  kind: 'people',
  room: 'chasing',
  count: 2,
  open: [
    [hour(1, 8), hour(1, 16)],
    [hour(3, 8), hour(3, 16)],
  ],
  bars: [],
  ...rest,
});

describe('a cell of two weeks on a page', () => {
  it('names longer work and counts short work', () => {
    const dips = ['a', 'b', 'c'].map((name) => bar(name, [[8, 9]], { kind: 'coat' }));
    const room = lane({ bars: [bar('x', [[8, 12]]), bar('y', [[9, 15]]), ...dips] });
    expect(cellOf(room, '2027-03-01', says)).toEqual([
      { what: 'Chase metal', on: ['Otter x', 'Otter y'] },
      { what: 'Dip coat', on: ['3'] },
    ]);
  });

  it('shows work on the days on which it is done, and not on a closed day between', () => {
    const long = bar('x', [], { spells: [[hour(1, 14), hour(3, 10)]] });
    const has = (day: string) => cellOf(lane({ bars: [long] }), day, says).length;
    expect(['2027-03-01', '2027-03-02', '2027-03-03', '2027-03-04'].map(has)).toEqual([1, 0, 1, 0]);
  });

  it('says the hour and how full a fire is, also where it burns on the next day', () => {
    const fire = bar('load', [], { spells: [[hour(1, 18), hour(2, 2)]], full: 0.75, kind: 'coat' });
    const kiln = lane({ kind: 'kiln', open: null, bars: [fire] });
    expect(cellOf(kiln, '2027-03-01', says)).toEqual([{ what: '18:00 Dip coat', on: ['1 tree', '75 % full'] }]);
    expect(cellOf(kiln, '2027-03-02', says)).toEqual([{ what: 'on Dip coat', on: ['1 tree', '75 % full'] }]);
  });
});
