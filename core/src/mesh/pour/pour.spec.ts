// Where air is trapped: solids whose high places are plain to see.
import { exact } from '../../testing/models.ts';
import type { Shape } from '../../testing/shapes.ts';
import { ball, box, lump, moved, reversed, together, torus, turned } from '../../testing/shapes.ts';
import { MeshFault } from '../fault.ts';
import { bestWayUp } from './best-way-up.ts';
import { orderDown } from './radix.ts';
import type { Direction } from '../direction.ts';
import { Pourable, findTraps } from './traps.ts';

const UP: Direction = [0, 0, 1];
const find = (shape: Shape, up: Direction = UP, least?: number) =>
  findTraps(new Pourable(exact(shape).body), up, least);
const rounded = (values: readonly number[]) => values.map((value) => Math.round(value * 10) / 10 + 0);
const places = (shape: Shape, up?: Direction, least?: number) =>
  find(shape, up, least).traps.map(({ x, y, z, prominenceMm }) => rounded([x, y, z, prominenceMm]));

/** Two towers of different height on a block: 100 × 40 × 20, towers 20 wide to 90 and to 60. */
const TOWERS = (() => {
  const outline = [
    [0, 0],
    [100, 0],
    [100, 60],
    [80, 60],
    [80, 20],
    [20, 20],
    [20, 90],
    [0, 90],
  ] as const;
  const n = outline.length;
  const positions = Float64Array.from([0, 40].flatMap((y) => outline.flatMap(([x, z]) => [x, y, z])));
  // Front and back cut by hand into three rectangles, then the sides round the outline.
  const front = [
    [0, 1, 4],
    [0, 4, 5],
    [1, 2, 3],
    [1, 3, 4],
    [0, 5, 6],
    [0, 6, 7],
  ];
  const sides = outline.flatMap((_, i) => {
    const next = (i + 1) % n;
    return [
      [i, n + i, next],
      [next, n + i, n + next],
    ];
  });
  const back = front.map(([a, b, c]) => [a! + n, c! + n, b! + n]);
  return { positions, triangles: Uint32Array.from([...front, ...back, ...sides].flat()) };
})();

describe('traps', () => {
  it('are the high places, the highest with the full height, the others with their fall', () => {
    expect(exact(TOWERS).findings.warnings).toEqual([]);
    // From the lower tower the metal would have to fall to 20 to reach the other.
    expect(places(TOWERS)).toEqual([
      [10, 20, 90, 90],
      [90, 20, 60, 40],
    ]);
    const { lowest, heightMm } = find(TOWERS);
    expect(heightMm).toBeCloseTo(90, 9);
    expect(lowest.map(({ z, prominenceMm }) => rounded([z, prominenceMm]))).toEqual([[0, 90]]);
    // Upside down the block's foot is the one high place, and the towers are where the metal may come in.
    const down = find(TOWERS, [0, 0, -2]);
    expect(down.traps.length).toBe(1);
    expect(down.lowest.map(({ z, prominenceMm }) => rounded([z, prominenceMm]))).toEqual([
      [90, 90],
      [60, 40],
    ]);
  });

  it('count a flat top or a ring once, and tell its middle', () => {
    expect(places(box(30, 20, 10, [100, 0, 0]))).toEqual([[115, 10, 10, 10]]);
    const cup = turned([
      [0, 0],
      [50, 0],
      [50, 100],
      [40, 100],
      [40, 10],
      [0, 10],
    ]);
    expect(find(cup).traps.length).toBe(1);
    expect(find(torus(80, 20)).traps.length).toBe(1);
    // Turned a little the top still counts once.
    expect(find(box(30, 20, 10), [0.1, 0.2, 0.97]).traps.map(({ x, y, z }) => [x, y, z])).toEqual([[30, 20, 10]]);
    // A ring stood up: one top; its hole's upper side is a ceiling.
    expect(places(torus(80, 20), [1, 0, 0])).toEqual([[100, 0, 0, 200]]);
  });

  it('leave out the ceiling of a hollow, and find a bump on its floor', () => {
    const block = box(200, 200, 200, [-100, -100, -100]);
    expect(find(together(block, reversed(ball(60)))).traps.length).toBe(1);
    // The floor of the hollow at −50 rises to 20 in its middle: metal fills that bump from below and shuts air in.
    const hollow = turned([
      [0, 20],
      [10, 20],
      [30, -50],
      [50, -50],
      [50, 60],
      [0, 60],
    ]);
    expect(places(together(block, reversed(hollow)))).toEqual([
      [0, 0, 100, 200],
      [0, 0, 20, 70],
    ]);
    // From below the bump is a ceiling, and so is the whole upper side of the hollow.
    expect(find(together(block, reversed(hollow)), [0, 0, -1]).traps.length).toBe(1);
  });

  it('leave out what stands out by less than was asked', () => {
    // The lower tower falls 40 of 90.
    expect(find(TOWERS, UP, 0.44).traps.length).toBe(2);
    expect(find(TOWERS, UP, 0.45).traps.length).toBe(1);
    expect(() => find(TOWERS, UP, 2)).toThrowError(MeshFault, /from 0 to 1/);
    expect(() => find(TOWERS, [0, 0, 0])).toThrowError(MeshFault, /up needs a direction/);
  });

  it('are those of each body by itself', () => {
    expect(places(together(box(100, 100, 50), moved(ball(20), [300, 0, 0])))).toEqual([
      [50, 50, 50, 50],
      [300, 0, 20, 40],
    ]);
  });

  it('do not change when the model is cut finer', () => {
    for (const up of [UP, [0.3, -0.5, 0.8], [1, 0, 0]] as const) {
      const count = (u: number) => find(lump(100, u, u / 2), up, 0.05).traps.length;
      expect(count(60)).withContext(up.join(',')).toBe(count(120));
    }
  });
});

describe('the best way up', () => {
  it('has the fewest traps, and of those the lowest metal', () => {
    const { up, traps, heightMm } = bestWayUp(new Pourable(exact(TOWERS).body));
    expect(traps.length).toBe(1);
    expect(heightMm).toBeLessThan(61);
    expect(Math.hypot(...up)).toBeCloseTo(1, 9);
    // A plate lies flat.
    expect(bestWayUp(new Pourable(exact(box(200, 100, 5)).body)).heightMm).toBeCloseTo(5, 6);
  });
});

describe('the order from high to low', () => {
  it('is that of sorting', () => {
    const values = Float64Array.from({ length: 500 }, (_, i) => Math.sin(i * 12.9898) * 1000);
    const sorted = [...values.keys()].sort((a, b) => values[b]! - values[a]!);
    expect([...orderDown(values)]).toEqual(sorted);
    expect([...orderDown(Float64Array.of(3, 3, 3))]).toEqual([0, 1, 2]);
  });
});
