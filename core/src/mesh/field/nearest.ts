import type { Tree } from './bvh.ts';

const DEEPEST = 128;

/**
 * Finds the nearest place on a surface. One object serves many questions without making anything anew: the answer lies
 * in its fields. Closest point of a triangle by its Voronoi regions (C. Ericson, Real-Time Collision Detection, 5.1.5).
 */
export class Nearest {
  /** Square of the distance found, the place, and the triangle's place in the tree; −1 where none was near enough. */
  square = Infinity;
  x = 0;
  y = 0;
  z = 0;
  triangle = -1;
  /** Whether the place lies within its triangle, not on an edge or corner: then the triangle's side is the surface's. */
  within = false;
  private readonly stack = new Int32Array(DEEPEST);
  private readonly reach = new Float64Array(DEEPEST);

  /** @param silentFrom triangles whose own number is this or more are no surface and are passed over */
  constructor(
    private readonly tree: Tree,
    private readonly silentFrom = Infinity,
  ) {}

  /**
   * Looks for the nearest place to (px, py, pz).
   * @param hint a triangle that is probably near: the search begins with it and is the quicker
   * @param withinSquare the square of the distance beyond which nothing matters
   */
  find(px: number, py: number, pz: number, hint = -1, withinSquare = Infinity): void {
    const { tree, stack, reach } = this;
    const { boxes, first, size, ids } = tree;
    this.square = withinSquare;
    this.triangle = -1;
    if (hint >= 0 && ids[hint]! < this.silentFrom) this.tryTriangle(hint, px, py, pz);
    let depth = 0;
    let node = 0;
    for (;;) {
      if (size[node]! > 0) {
        const from = first[node]!;
        for (let i = from, to = from + size[node]!; i < to; i++)
          if (ids[i]! < this.silentFrom) this.tryTriangle(i, px, py, pz);
      } else {
        const left = first[node]!;
        const dl = boxSquare(boxes, 6 * left, px, py, pz);
        const dr = boxSquare(boxes, 6 * left + 6, px, py, pz);
        const near = dl <= dr ? left : left + 1;
        const [dn, df] = dl <= dr ? [dl, dr] : [dr, dl];
        if (df < this.square && depth < DEEPEST) {
          stack[depth] = near === left ? left + 1 : left;
          reach[depth++] = df;
        }
        if (dn < this.square) {
          node = near;
          continue;
        }
      }
      while (depth > 0 && reach[depth - 1]! >= this.square) depth--;
      if (depth === 0) return;
      node = stack[--depth]!;
    }
  }

  private tryTriangle(i: number, px: number, py: number, pz: number): void {
    const { corners } = this.tree;
    const at = 9 * i;
    const ax = corners[at]!;
    const ay = corners[at + 1]!;
    const az = corners[at + 2]!;
    const abx = corners[at + 3]! - ax;
    const aby = corners[at + 4]! - ay;
    const abz = corners[at + 5]! - az;
    const acx = corners[at + 6]! - ax;
    const acy = corners[at + 7]! - ay;
    const acz = corners[at + 8]! - az;
    const apx = px - ax;
    const apy = py - ay;
    const apz = pz - az;
    const d1 = abx * apx + aby * apy + abz * apz;
    const d2 = acx * apx + acy * apy + acz * apz;
    let v = 0;
    let w = 0;
    let within = false;
    if (d1 > 0 || d2 > 0) {
      const abab = abx * abx + aby * aby + abz * abz;
      const abac = abx * acx + aby * acy + abz * acz;
      const acac = acx * acx + acy * acy + acz * acz;
      const d3 = d1 - abab;
      const d4 = d2 - abac;
      const d5 = d1 - abac;
      const d6 = d2 - acac;
      const va = d3 * d6 - d5 * d4;
      const vb = d5 * d2 - d1 * d6;
      const vc = d1 * d4 - d3 * d2;
      if (d3 >= 0 && d4 <= d3) v = 1;
      else if (d6 >= 0 && d5 <= d6) w = 1;
      else if (vc <= 0 && d1 >= 0 && d3 <= 0) v = d1 / (d1 - d3);
      else if (vb <= 0 && d2 >= 0 && d6 <= 0) w = d2 / (d2 - d6);
      else if (va <= 0 && d4 - d3 >= 0 && d5 - d6 >= 0) {
        w = (d4 - d3) / (d4 - d3 + (d5 - d6));
        v = 1 - w;
      } else {
        const sum = va + vb + vc;
        v = vb / sum;
        w = vc / sum;
        within = true;
      }
    }
    const x = ax + abx * v + acx * w;
    const y = ay + aby * v + acy * w;
    const z = az + abz * v + acz * w;
    const square = (px - x) * (px - x) + (py - y) * (py - y) + (pz - z) * (pz - z);
    // A triangle without area can bring forth NaN: such a place is no answer.
    if (!(square < this.square)) return;
    this.square = square;
    this.x = x;
    this.y = y;
    this.z = z;
    this.triangle = i;
    this.within = within;
  }
}

/** The square of the distance from a point to a box, 0 inside. */
export function boxSquare(boxes: Float64Array, at: number, x: number, y: number, z: number): number {
  const dx = x < boxes[at]! ? boxes[at]! - x : x > boxes[at + 3]! ? x - boxes[at + 3]! : 0;
  const dy = y < boxes[at + 1]! ? boxes[at + 1]! - y : y > boxes[at + 4]! ? y - boxes[at + 4]! : 0;
  const dz = z < boxes[at + 2]! ? boxes[at + 2]! - z : z > boxes[at + 5]! ? z - boxes[at + 5]! : 0;
  return dx * dx + dy * dy + dz * dz;
}
