import { listUnder } from '../../units/lists.ts';

/** Triangles that close holes: a fan about the middle of each rim. */
export interface Caps {
  /** x, y, z of the fans' middles, to be added after the mesh's vertices. */
  readonly middles: readonly number[];
  readonly triangles: readonly number[];
  /** The rim each cap triangle belongs to. */
  readonly rim: readonly number[];
  readonly rims: readonly Rim[];
}

export interface Rim {
  /** A vertex on it, for telling whose it is. */
  readonly vertex: number;
  readonly edges: number;
  /** Area of the fan, in mm². */
  readonly areaMm2: number;
  /**
   * By how much the volume may differ because nobody knows what closed the hole, in mm³: a half sphere over a circle of
   * the fan's area, 2/3·A·√(A/π).
   */
  readonly plusMinusMm3: number;
}

/**
 * Closes the rims that unpaired half-edges form. The fan makes the volume independent of the origin; a flat rim, such as
 * the foot of a bust that was left open, is closed exactly.
 * @param unpaired pairs of vertices, each in the direction in which its triangle runs through it
 * @param firstNew the number that the first fan's middle gets
 */
export function closeHoles(
  positions: Float64Array,
  unpaired: readonly (readonly [number, number])[],
  firstNew = positions.length / 3,
): Caps {
  const byEnd = new Map<number, number[]>();
  unpaired.forEach(([, to], i) => listUnder(byEnd, to, i));
  const used = new Uint8Array(unpaired.length);
  const [middles, triangles, rim, rims]: [number[], number[], number[], Rim[]] = [[], [], [], []];
  for (let first = 0; first < unpaired.length; first++) {
    if (used[first]) continue;
    const loop: number[] = [];
    // The cap runs against its triangles: from the end of one rim edge to its start, where another ends.
    for (let i: number | undefined = first; i !== undefined;) {
      used[i] = 1;
      loop.push(i);
      const waiting = byEnd.get(unpaired[i]![0]);
      while (waiting && waiting.length > 0 && used[waiting.at(-1)!]) waiting.pop();
      i = waiting?.pop();
    }
    const middle = middleOf(
      positions,
      loop.map((i) => unpaired[i]![0]),
    );
    const apex = firstNew + middles.length / 3;
    middles.push(...middle);
    let area = 0;
    for (const i of loop) {
      const [from, to] = unpaired[i]!;
      triangles.push(to, from, apex);
      rim.push(rims.length);
      area += fanArea(positions, to, from, middle);
    }
    const plusMinusMm3 = (2 / 3) * area * Math.sqrt(area / Math.PI);
    rims.push({ vertex: unpaired[first]![0], edges: loop.length, areaMm2: area, plusMinusMm3 });
  }
  return { middles, triangles, rim, rims };
}

function middleOf(positions: Float64Array, vertices: readonly number[]): [number, number, number] {
  const middle: [number, number, number] = [0, 0, 0];
  for (const vertex of vertices)
    for (let axis = 0; axis < 3; axis++) middle[axis]! += positions[3 * vertex + axis]! / vertices.length;
  return middle;
}

function fanArea(p: Float64Array, a: number, b: number, [mx, my, mz]: readonly [number, number, number]): number {
  const [ax, ay, az] = [p[3 * a]! - mx, p[3 * a + 1]! - my, p[3 * a + 2]! - mz];
  const [bx, by, bz] = [p[3 * b]! - mx, p[3 * b + 1]! - my, p[3 * b + 2]! - mz];
  return Math.hypot(ay * bz - az * by, az * bx - ax * bz, ax * by - ay * bx) / 2;
}
