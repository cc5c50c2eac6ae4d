/** The corners of an upright box. */
export interface Box {
  readonly min: readonly [number, number, number];
  readonly max: readonly [number, number, number];
}

/** The box around all vertices, in their unit. */
export function boxOf(positions: Float64Array): Box {
  let [x0, y0, z0, x1, y1, z1] = [Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity];
  for (let i = 0; i < positions.length; i += 3) {
    const [x, y, z] = [positions[i]!, positions[i + 1]!, positions[i + 2]!];
    if (x < x0) x0 = x;
    if (x > x1) x1 = x;
    if (y < y0) y0 = y;
    if (y > y1) y1 = y;
    if (z < z0) z0 = z;
    if (z > z1) z1 = z;
  }
  return { min: [x0, y0, z0], max: [x1, y1, z1] };
}

/** Its three sides. */
export const sidesOf = ({ min, max }: Box): [number, number, number] => [
  max[0] - min[0],
  max[1] - min[1],
  max[2] - min[2],
];

export const diagonalOf = (box: Box): number => Math.hypot(...sidesOf(box));
