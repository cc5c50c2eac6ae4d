import { step } from '../fault.ts';
import type { Watch } from '../fault.ts';
import type { Direction } from '../direction.ts';
import type { Pourable, Traps } from './traps.ts';
import { DEFAULT_PROMINENCE, findTraps, peaks } from './traps.ts';

/** How many directions are tried at first, and how far round the best ones are looked about, in degrees. */
const TRIED = 150;
const KEPT = 4;
const ROUNDS_DEG = [8, 4, 2] as const;

interface Tried {
  readonly up: Direction;
  readonly count: number;
  /** Prominences of all traps but the highest place of each part, added up, in mm. */
  readonly size: number;
  readonly height: number;
}

/** The fewer traps the better; of as many, the smaller ones; of those, the lower metal. */
const better = (a: Tried, b: Tried): number =>
  a.count - b.count ||
  (Math.abs(a.size - b.size) > 0.01 * (a.height + b.height) ? a.size - b.size : a.height - b.height);

/**
 * The orientation with the fewest and smallest traps, and of those the lowest metal: many directions spread evenly over
 * the sphere, the model's own axes among them, then closer and closer round the best. The same model gives the same answer.
 */
export const bestWayUp = (model: Pourable, least = DEFAULT_PROMINENCE, watch?: Watch): Traps =>
  waysUp(model, least, watch, 1)[0]!;

/** Two ways up are different when they lie so far apart, in degrees. */
const APART_DEG = 40;

/** The best ways up that differ from each other, the best first. */
export function waysUp(model: Pourable, least = DEFAULT_PROMINENCE, watch?: Watch, most = 4): Traps[] {
  const look = (up: Direction): Tried => {
    const { found, height } = peaks(model, up, least);
    return { up, count: found.length, size: found.slice(1).reduce((sum, each) => sum + each.prominenceMm, 0), height };
  };
  const total = TRIED + 6 + KEPT * ROUNDS_DEG.length * 6;
  let done = 0;
  const tryAll = (ways: readonly Direction[]) =>
    ways.map((way) => {
      step(watch, done++ / total, 'trying ways up');
      return look(way);
    });
  const first = tryAll([...AXES, ...spread(TRIED)]).sort(better);
  let best = first.slice(0, KEPT);
  for (const degrees of ROUNDS_DEG) {
    const near = best.flatMap(({ up }) => around(up, (degrees * Math.PI) / 180));
    best = [...best, ...tryAll(near)].sort(better).slice(0, KEPT);
  }
  const chosen: Tried[] = [best[0]!];
  for (const each of [...best, ...first]) {
    if (chosen.length >= most) break;
    if (chosen.every(({ up }) => angle(up, each.up) > APART_DEG)) chosen.push(each);
  }
  return chosen.map(({ up }) => findTraps(model, up, least, watch));
}

/** Between two directions, in degrees. */
const angle = (a: Direction, b: Direction): number => {
  const cosine = a.reduce((sum, each, k) => sum + each * b[k]!, 0) / (Math.hypot(...a) * Math.hypot(...b));
  return (Math.acos(Math.min(1, Math.max(-1, cosine))) * 180) / Math.PI;
};

const AXES: readonly Direction[] = [
  [0, 0, 1],
  [0, 1, 0],
  [1, 0, 0],
  [0, 0, -1],
  [0, -1, 0],
  [-1, 0, 0],
];

/** Directions spread evenly over the sphere (Fibonacci lattice). */
const spread = (count: number): Direction[] =>
  Array.from({ length: count }, (_, i) => {
    const z = 1 - (2 * i + 1) / count;
    const turn = i * Math.PI * (3 - Math.sqrt(5));
    const r = Math.sqrt(1 - z * z);
    return [r * Math.cos(turn), r * Math.sin(turn), z];
  });

/** Six directions at an angle about one. */
function around(up: Direction, angle: number): Direction[] {
  const aside: Direction = Math.abs(up[2]) < 0.9 ? [0, 0, 1] : [1, 0, 0];
  const one = unit(cross(up, aside));
  const two = cross(up, one);
  return [0, 1, 2, 3, 4, 5].map((i) => {
    const [c, s] = [Math.cos((i * Math.PI) / 3) * Math.sin(angle), Math.sin((i * Math.PI) / 3) * Math.sin(angle)];
    return unit([0, 1, 2].map((k) => up[k]! * Math.cos(angle) + one[k]! * c + two[k]! * s) as unknown as Direction);
  });
}

const cross = (a: Direction, b: Direction): Direction => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
];
const unit = (a: Direction): Direction => a.map((each) => each / Math.hypot(...a)) as unknown as Direction;
