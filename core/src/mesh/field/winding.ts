import type { Tree } from './bvh.ts';

/** How many radii away a group of triangles may be taken as one; 2 keeps the error far below the half that decides. */
const FAR = 2;

/**
 * How often a surface goes round a point: 1 inside a body, 0 outside, 2 where two bodies overlap, and in between near a
 * hole. Exact solid angles near by (Van Oosterom and Strackee), groups of triangles as one dipole far off (G. Barill and
 * others, Fast Winding Numbers for Soups and Clouds, 2018).
 */
export class Winding {
  /** Per node: the middle, the sum of area × normal, and the square of FAR times the radius. */
  private readonly far: Float64Array;
  private readonly stack = new Int32Array(256);

  constructor(private readonly tree: Tree) {
    const { nodes, first, size, corners, boxes } = tree;
    this.far = new Float64Array(7 * nodes);
    const areas = new Float64Array(nodes);
    // Children have higher numbers than their parents, so going backwards every child is ready.
    for (let node = nodes - 1; node >= 0; node--) {
      const at = 7 * node;
      if (size[node]! > 0)
        for (let i = first[node]!; i < first[node]! + size[node]!; i++)
          areas[node]! += this.addTriangle(at, corners, 9 * i);
      else
        for (let child = first[node]!; child < first[node]! + 2; child++) {
          areas[node]! += areas[child]!;
          for (let k = 0; k < 3; k++) {
            this.far[at + k]! += this.far[7 * child + k]! * areas[child]!;
            this.far[at + 3 + k]! += this.far[7 * child + 3 + k]!;
          }
        }
      let square = 0;
      for (let k = 0; k < 3; k++) {
        const [low, high] = [boxes[6 * node + k]!, boxes[6 * node + 3 + k]!];
        this.far[at + k] = areas[node]! > 0 ? this.far[at + k]! / areas[node]! : (low + high) / 2;
        square += Math.max(this.far[at + k]! - low, high - this.far[at + k]!) ** 2;
      }
      this.far[at + 6] = FAR * FAR * square;
    }
  }

  private addTriangle(at: number, c: Float64Array, i: number): number {
    const [ux, uy, uz] = [c[i + 3]! - c[i]!, c[i + 4]! - c[i + 1]!, c[i + 5]! - c[i + 2]!];
    const [vx, vy, vz] = [c[i + 6]! - c[i]!, c[i + 7]! - c[i + 1]!, c[i + 8]! - c[i + 2]!];
    const normal = [(uy * vz - uz * vy) / 2, (uz * vx - ux * vz) / 2, (ux * vy - uy * vx) / 2];
    const area = Math.hypot(...normal);
    for (let k = 0; k < 3; k++) {
      this.far[at + k]! += (area * (c[i + k]! + c[i + 3 + k]! + c[i + 6 + k]!)) / 3;
      this.far[at + 3 + k]! += normal[k]!;
    }
    return area;
  }

  /** The winding number at a point. */
  at(x: number, y: number, z: number): number {
    const { far, stack, tree } = this;
    const { first, size, corners } = tree;
    let sum = 0;
    let depth = 0;
    stack[depth++] = 0;
    while (depth > 0) {
      const node = stack[--depth]!;
      const at = 7 * node;
      const dx = far[at]! - x;
      const dy = far[at + 1]! - y;
      const dz = far[at + 2]! - z;
      const square = dx * dx + dy * dy + dz * dz;
      if (square > far[at + 6]!) {
        sum += (dx * far[at + 3]! + dy * far[at + 4]! + dz * far[at + 5]!) / (square * Math.sqrt(square));
      } else if (size[node]! > 0) {
        for (let i = first[node]!, to = i + size[node]!; i < to; i++) sum += solidAngle(corners, 9 * i, x, y, z);
      } else {
        stack[depth++] = first[node]!;
        stack[depth++] = first[node]! + 1;
      }
    }
    return sum / (4 * Math.PI);
  }
}

function solidAngle(c: Float64Array, at: number, x: number, y: number, z: number): number {
  const ax = c[at]! - x;
  const ay = c[at + 1]! - y;
  const az = c[at + 2]! - z;
  const bx = c[at + 3]! - x;
  const by = c[at + 4]! - y;
  const bz = c[at + 5]! - z;
  const cx = c[at + 6]! - x;
  const cy = c[at + 7]! - y;
  const cz = c[at + 8]! - z;
  const a = Math.sqrt(ax * ax + ay * ay + az * az);
  const b = Math.sqrt(bx * bx + by * by + bz * bz);
  const d = Math.sqrt(cx * cx + cy * cy + cz * cz);
  const triple = ax * (by * cz - bz * cy) + ay * (bz * cx - bx * cz) + az * (bx * cy - by * cx);
  const below =
    a * b * d +
    (ax * bx + ay * by + az * bz) * d +
    (bx * cx + by * cy + bz * cz) * a +
    (cx * ax + cy * ay + cz * az) * b;
  return 2 * Math.atan2(triple, below);
}
