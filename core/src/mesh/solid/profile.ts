import type { Direction } from '../direction.ts';
import type { Closed } from './kernel.ts';

/** A body cut across at one place: how large the cut is, and how long its outline. */
export interface CrossSection {
  /** Where the plane lies along the direction, mm about the body's origin. */
  readonly offset: number;
  readonly areaMm2: number;
  readonly outlineMm: number;
}

/**
 * Cross-sections of a closed mesh at places spread evenly along a direction.
 *
 * In other words: where a body is narrow there is little to weld, so that is where it is cut.
 *
 * @param count how many; @param along the direction, of length 1
 */
export function profileAlong({ positions, triangles }: Closed, along: Direction, count: number): CrossSection[] {
  const [u, v] = across(along);
  const height = new Float64Array(positions.length / 3);
  let [low, high] = [Infinity, -Infinity];
  for (let i = 0; i < height.length; i++) {
    height[i] = dot(positions, i, along);
    low = Math.min(low, height[i]!);
    high = Math.max(high, height[i]!);
  }
  const step = (high - low) / count;
  const offsetOf = (k: number) => low + (k + 0.5) * step;
  const area = new Float64Array(count);
  const outline = new Float64Array(count);
  for (let t = 0; t < triangles.length; t += 3) {
    const corners = [triangles[t]!, triangles[t + 1]!, triangles[t + 2]!];
    const [a, b, c] = corners.map((corner) => height[corner]!) as [number, number, number];
    const from = Math.max(0, Math.ceil((Math.min(a, b, c) - low) / step - 0.5));
    const to = Math.min(count - 1, Math.floor((Math.max(a, b, c) - low) / step - 0.5));
    for (let k = from; k <= to; k++) {
      const found = crossing(positions, height, corners, offsetOf(k), u, v);
      if (!found) continue;
      const [[px, py], [qx, qy]] = found;
      area[k]! += (px * qy - qx * py) / 2;
      outline[k]! += Math.hypot(qx - px, qy - py);
    }
  }
  return Array.from({ length: count }, (_, k) => ({
    offset: offsetOf(k),
    areaMm2: Math.abs(area[k]!),
    outlineMm: outline[k]!,
  }));
}

type Point = readonly [number, number];

/** Where a plane runs through a triangle, from where it goes up through an edge to where it comes down. */
function crossing(
  p: Float64Array,
  height: Float64Array,
  corners: readonly number[],
  offset: number,
  u: Direction,
  v: Direction,
): readonly [Point, Point] | undefined {
  let [up, down]: (Point | undefined)[] = [];
  for (let k = 0; k < 3; k++) {
    const [i, j] = [corners[k]!, corners[(k + 1) % 3]!];
    const [hi, hj] = [height[i]! - offset, height[j]! - offset];
    if (hi >= 0 === hj >= 0) continue;
    const share = hi / (hi - hj);
    const at = (axis: Direction) => dot(p, i, axis) + (dot(p, j, axis) - dot(p, i, axis)) * share;
    if (hi < 0) up = [at(u), at(v)];
    else down = [at(u), at(v)];
  }
  return up && down ? [up, down] : undefined;
}

const dot = (p: Float64Array, i: number, [x, y, z]: Direction): number =>
  p[3 * i]! * x + p[3 * i + 1]! * y + p[3 * i + 2]! * z;

/** Two directions across one, square to it and to each other. */
export function across([x, y, z]: Direction): [Direction, Direction] {
  const aside: Direction = Math.abs(z) < 0.9 ? [0, 0, 1] : [1, 0, 0];
  const cross = (a: Direction, b: Direction): Direction => [
    a[1] * b[2] - a[2] * b[1],
    a[2] * b[0] - a[0] * b[2],
    a[0] * b[1] - a[1] * b[0],
  ];
  const one = cross([x, y, z], aside);
  const length = Math.hypot(...one);
  const u: Direction = [one[0] / length, one[1] / length, one[2] / length];
  return [u, cross([x, y, z], u)];
}
