import { boxOf, sidesOf } from '../body/box.ts';
import { step } from '../fault.ts';
import type { Watch } from '../fault.ts';
import type { SolidField } from './solid-field.ts';

/** The largest ball that fits into the metal. */
export interface Inscribed {
  readonly radiusMm: number;
  /** Its middle, in mm about the body's origin. */
  readonly at: readonly [number, number, number];
}

/** Cubes whose best could not be better than the best found by this share are left. */
const CLOSE = 0.002;
/** At most so many cubes of one size are looked into, the most promising first. */
const WIDEST = 1200;
const SQRT3 = Math.sqrt(3);

interface Cube {
  readonly x: number;
  readonly y: number;
  readonly z: number;
  readonly depth: number;
  readonly hint: number;
}

/**
 * The largest ball inside the body: where the thickest metal is, which cools last. Cubes are cut into eight as long as
 * one of their points could lie deeper than the deepest found (a cube's points are no deeper than its middle plus half
 * its diagonal); the best is then followed uphill. The radius is that of a ball that does fit, so never too large.
 * @throws Cancelled
 */
export function largestInscribed(field: SolidField, watch?: Watch): Inscribed {
  const box = boxOf(field.body.positions);
  let half = (Math.max(...sidesOf(box)) / 2) * 1.0001;
  const [x, y, z] = ([0, 1, 2] as const).map((k) => (box.min[k] + box.max[k]) / 2) as [number, number, number];
  const look = (px: number, py: number, pz: number, hint: number): Cube => {
    field.ask(px, py, pz, 0, hint);
    return { x: px, y: py, z: pz, depth: field.depth, hint: field.triangle };
  };
  let cubes = [look(x, y, z, -1)];
  let best = cubes[0]!;
  while (cubes.length > 0) {
    step(watch, 0.5, 'finding the thickest place');
    const h = half / 2;
    const parts: Cube[] = [];
    for (const cube of cubes)
      for (let k = 0; k < 8; k++) {
        const part = look(cube.x + (k & 1 ? h : -h), cube.y + (k & 2 ? h : -h), cube.z + (k & 4 ? h : -h), cube.hint);
        if (part.depth > best.depth) best = part;
        parts.push(part);
      }
    half = h;
    cubes = parts
      .filter(({ depth }) => depth + half * SQRT3 > Math.max(0, best.depth) * (1 + CLOSE) && half > CLOSE * best.depth)
      .sort((a, b) => b.depth - a.depth)
      .slice(0, WIDEST);
    if (half < 1e-6 * Math.max(...sidesOf(box))) break;
  }
  return uphill(field, best, 2 * half);
}

/** Follows the depth to its top by steps along the axes and slopes, halved where none leads higher. */
function uphill(field: SolidField, from: Cube, start: number): Inscribed {
  let { x, y, z, depth, hint } = from;
  for (let size = Math.max(start, 1e-3 * depth); size > 1e-6 * Math.abs(depth) && depth > 0;) {
    let moved = false;
    for (const [dx, dy, dz] of WAYS) {
      field.ask(x + dx * size, y + dy * size, z + dz * size, 0, hint);
      if (field.depth <= depth) continue;
      [x, y, z] = [x + dx * size, y + dy * size, z + dz * size];
      [depth, hint, moved] = [field.depth, field.triangle, true];
    }
    if (!moved) size /= 2;
  }
  return { radiusMm: Math.max(0, depth), at: [x, y, z] };
}

/** The 26 neighbours in a grid. */
const WAYS = Array.from(
  { length: 27 },
  (_, i) => [(i % 3) - 1, (Math.floor(i / 3) % 3) - 1, Math.floor(i / 9) - 1] as const,
).filter((way) => way.some((each) => each !== 0));
