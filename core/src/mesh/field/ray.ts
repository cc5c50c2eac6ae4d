import type { Tree } from './bvh.ts';

/** Where a ray goes through a triangle: its own number, the distance, and 1 where it comes out of the body there, −1 in. */
export type Hit = (triangle: number, distance: number, out: 1 | -1) => void;

/**
 * Sends a ray through all triangles on its way. Ray–triangle by T. Möller and B. Trumbore (1997).
 * @param direction its length is the unit of the distances
 */
export function castRay(
  tree: Tree,
  [ox, oy, oz]: readonly [number, number, number],
  [dx, dy, dz]: readonly [number, number, number],
  hit: Hit,
): void {
  const { boxes, first, size, corners: c, ids } = tree;
  const open = [0];
  const inverse = [1 / dx, 1 / dy, 1 / dz];
  const origin = [ox, oy, oz];
  while (open.length > 0) {
    const node = open.pop()!;
    let near = 0;
    let far = Infinity;
    for (let k = 0; k < 3; k++) {
      const one = (boxes[6 * node + k]! - origin[k]!) * inverse[k]!;
      const two = (boxes[6 * node + 3 + k]! - origin[k]!) * inverse[k]!;
      // Along an axis a ray in the plane of a side gives NaN, which must not shut the box.
      near = Math.max(near, Math.min(one, two) || (Number.isNaN(one + two) ? near : 0));
      const most = Math.max(one, two);
      if (!Number.isNaN(most)) far = Math.min(far, most);
    }
    if (near > far) continue;
    if (size[node] === 0) {
      open.push(first[node]!, first[node]! + 1);
      continue;
    }
    for (let i = first[node]!; i < first[node]! + size[node]!; i++) {
      const at = 9 * i;
      const [ux, uy, uz] = [c[at + 3]! - c[at]!, c[at + 4]! - c[at + 1]!, c[at + 5]! - c[at + 2]!];
      const [vx, vy, vz] = [c[at + 6]! - c[at]!, c[at + 7]! - c[at + 1]!, c[at + 8]! - c[at + 2]!];
      const [px, py, pz] = [dy * vz - dz * vy, dz * vx - dx * vz, dx * vy - dy * vx];
      const det = ux * px + uy * py + uz * pz;
      if (det === 0) continue;
      const [tx, ty, tz] = [ox - c[at]!, oy - c[at + 1]!, oz - c[at + 2]!];
      const u = (tx * px + ty * py + tz * pz) / det;
      if (u < 0 || u > 1) continue;
      const [qx, qy, qz] = [ty * uz - tz * uy, tz * ux - tx * uz, tx * uy - ty * ux];
      const v = (dx * qx + dy * qy + dz * qz) / det;
      if (v < 0 || u + v > 1) continue;
      const distance = (vx * qx + vy * qy + vz * qz) / det;
      // The determinant is −direction·normal: negative where the ray leaves with the normal.
      if (distance > 0) hit(ids[i]!, distance, det < 0 ? 1 : -1);
    }
  }
}
