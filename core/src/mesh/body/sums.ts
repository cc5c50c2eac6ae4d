/** Volume, area and first moments of a set of triangles. */
export interface Sums {
  /** In mm³; positive where the triangles face outward. Σ a·(b×c)/6 (divergence theorem). */
  volume: number;
  /** In mm². */
  area: number;
  /** Volume-weighted sums of x, y, z: divided by the volume they are the centroid. */
  moment: [number, number, number];
  /** Area-weighted sums of x, y, z. */
  areaMoment: [number, number, number];
}

export const noSums = (): Sums => ({ volume: 0, area: 0, moment: [0, 0, 0], areaMoment: [0, 0, 0] });

/**
 * Adds triangles up, one set of sums a group. Exact for the polyhedron; the positions lie about the model's middle, so
 * nothing is lost to a far origin.
 * @param groupOf the group of a triangle, negative for none; @param turned whether it faces the other way
 */
export function sumUp(
  positions: Float64Array,
  triangles: ArrayLike<number>,
  groups: number,
  groupOf: (t: number) => number,
  turned: (t: number) => boolean,
): Sums[] {
  const sums = Array.from({ length: groups }, noSums);
  for (let t = 0, count = triangles.length / 3; t < count; t++) {
    const group = groupOf(t);
    if (group < 0) continue;
    const [a, b, c] = [3 * triangles[3 * t]!, 3 * triangles[3 * t + 1]!, 3 * triangles[3 * t + 2]!];
    const [ax, ay, az] = [positions[a]!, positions[a + 1]!, positions[a + 2]!];
    const [bx, by, bz] = [positions[b]!, positions[b + 1]!, positions[b + 2]!];
    const [cx, cy, cz] = [positions[c]!, positions[c + 1]!, positions[c + 2]!];
    const [nx, ny, nz] = [
      (by - ay) * (cz - az) - (bz - az) * (cy - ay),
      (bz - az) * (cx - ax) - (bx - ax) * (cz - az),
      (bx - ax) * (cy - ay) - (by - ay) * (cx - ax),
    ];
    const volume = ((turned(t) ? -1 : 1) * (ax * nx + ay * ny + az * nz)) / 6;
    const area = Math.sqrt(nx * nx + ny * ny + nz * nz) / 2;
    const sum = sums[group]!;
    sum.volume += volume;
    sum.area += area;
    const [sx, sy, sz] = [ax + bx + cx, ay + by + cy, az + bz + cz];
    // The centroid of a tetrahedron with one corner at the origin is a quarter of the others' sum.
    sum.moment[0] += (volume * sx) / 4;
    sum.moment[1] += (volume * sy) / 4;
    sum.moment[2] += (volume * sz) / 4;
    sum.areaMoment[0] += (area * sx) / 3;
    sum.areaMoment[1] += (area * sy) / 3;
    sum.areaMoment[2] += (area * sz) / 3;
  }
  return sums;
}
