import type { Filler } from './fill-heat.ts';
import { fillHeat } from './fill-heat.ts';

const tree = (treeId: string, kg: number, rest: Partial<Filler> = {}): Filler => ({
  treeId,
  kg,
  wallMm: 5,
  dueDate: null,
  ...rest,
});
const room = { freeKg: 50, places: 12, pourDay: '2027-03-04', wallsMm: [5] };
const ids = (trees: readonly Filler[]) => trees.map(({ treeId }) => treeId);

describe('what fills a heat', () => {
  it('is the most metal that finds room, not the heaviest first', () => {
    // 40 alone leaves 10 kg free; 26 and 24 fill it to the kilogram.
    expect(ids(fillHeat([tree('a', 40), tree('b', 26), tree('c', 24), tree('d', 12)], room))).toEqual(['b', 'c']);
  });

  it('takes no more trees than the pit has places', () => {
    const small = Array.from({ length: 10 }, (_, i) => tree(`t${i}`, 5));
    expect(fillHeat(small, room).length).toBe(10);
    expect(fillHeat([...small, tree('big', 18)], { ...room, places: 2 }).map(({ kg }) => kg)).toEqual([5, 18]);
  });

  it('takes what is due sooner, and what wants the same metal, of two alike', () => {
    const soon = tree('soon', 30, { dueDate: '2027-03-20' });
    expect(ids(fillHeat([tree('late', 30), soon], room))).toEqual(['soon']);
    // 30 kg × 0.8 is worth less than 26 kg.
    expect(ids(fillHeat([tree('thick', 30, { wallMm: 12 }), tree('alike', 26)], room))).toEqual(['alike']);
  });

  it('is nothing where nothing fits, or nothing is there', () => {
    expect(fillHeat([tree('a', 50.1)], room)).toEqual([]);
    expect(fillHeat([], room)).toEqual([]);
    expect(fillHeat([tree('a', 5)], { ...room, freeKg: -3 })).toEqual([]);
  });

  it('is found at once for a large crucible, a wide pit and hundreds of trees', () => {
    const trees = Array.from({ length: 600 }, (_, i) => tree(`t${i}`, 4 + ((i * 37) % 90)));
    const found = fillHeat(trees, { ...room, freeKg: 3000, places: 200 });
    const kg = found.reduce((sum, each) => sum + each.kg, 0);
    // Weighed out to 1.5 kg each tree may give up so much.
    expect(kg).toBeLessThanOrEqual(3000);
    expect(kg).toBeGreaterThan(3000 - 1.5 * found.length - 1.5);
  });

  it('equals the best of all subsets on small cases', () => {
    // Weights from a fixed sequence; worth is the kilograms alone.
    for (let seed = 1; seed <= 30; seed++) {
      const trees = Array.from({ length: 9 }, (_, i) => tree(`t${i}`, ((seed * 37 + i * 53) % 290) / 10 + 0.3));
      let best = 0;
      for (let set = 0; set < 2 ** trees.length; set++) {
        const chosen = trees.filter((_, i) => (set >> i) & 1);
        const kg = chosen.reduce((sum, each) => sum + each.kg, 0);
        if (chosen.length <= 4 && kg <= 50 + 1e-9) best = Math.max(best, kg);
      }
      const found = fillHeat(trees, { ...room, places: 4 }).reduce((sum, { kg }) => sum + kg, 0);
      expect(found).withContext(`seed ${seed}`).toBeCloseTo(best, 6);
    }
  });
});
