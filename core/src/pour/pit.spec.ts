import { crucibleWayM, pitPlaces, setInPit } from './pit.ts';

describe('the pit', () => {
  it('has numbered places in rows away from the furnace, neighbours in number side by side', () => {
    const places = pitPlaces({ places: 5, across: 3, pitchMm: 600 });
    expect(places.map(({ number, xMm, yMm }) => [number, xMm, yMm])).toEqual([
      [1, 300, 300],
      [2, 900, 300],
      [3, 1500, 300],
      [4, 1500, 900],
      [5, 900, 900],
    ]);
  });

  it('is set so that the first to be poured stands farthest of the free places near the furnace', () => {
    expect([...setInPit(['a', 'b', 'c'], 6, new Set())]).toEqual([
      ['a', 3],
      ['b', 2],
      ['c', 1],
    ]);
    // What was poured before and hangs in its shell keeps its place.
    expect([...setInPit(['a', 'b'], 6, new Set([1, 3]))]).toEqual([
      ['a', 4],
      ['b', 2],
    ]);
    expect([...setInPit(['a', 'b'], 2, new Set([1]))]).toEqual([['a', 2]]);
  });

  it('says how far the crucible goes: 3-4-5 there and back', () => {
    expect(crucibleWayM([{ number: 1, xMm: 3000, yMm: 4000 }])).toBe(10);
  });
});
