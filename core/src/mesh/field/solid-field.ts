import type { Body } from '../body/body.ts';
import { buildTree } from './bvh.ts';
import type { Tree } from './bvh.ts';
import { Nearest } from './nearest.ts';
import { Winding } from './winding.ts';

/**
 * How deep a point lies in the metal: the signed distance to the body's surface, positive inside. What closes holes
 * tells inside from outside but is no surface. One object serves many questions; the answer lies in its fields.
 */
export class SolidField {
  /** The depth, in mm. */
  depth = 0;
  /** The direction in which the depth grows, of length 1. */
  gx = 0;
  gy = 0;
  gz = 0;
  /** The nearest triangle's place in the tree: a good hint for a point near by. */
  triangle = -1;
  readonly tree: Tree;
  readonly nearest: Nearest;
  private winding: Winding | undefined;
  /** Questions so far: what a computation cost. */
  asked = 0;

  constructor(readonly body: Body) {
    this.tree = buildTree(body.positions, body.triangles);
    this.nearest = new Nearest(this.tree, body.capsFrom);
  }

  /** Whether a point lies in the metal. */
  inside(x: number, y: number, z: number): boolean {
    this.winding ??= new Winding(this.tree);
    return this.winding.at(x, y, z) > 0.5;
  }

  /** Asks for a point. @param side 1 inside, −1 outside where that is known, 0 where it is not; @param hint a near triangle */
  ask(x: number, y: number, z: number, side: -1 | 0 | 1 = 0, hint = -1): void {
    this.asked++;
    const { nearest } = this;
    nearest.find(x, y, z, hint);
    const distance = Math.sqrt(nearest.square);
    const sign = side !== 0 ? side : this.sideOfTriangle(x, y, z) || (this.inside(x, y, z) ? 1 : -1);
    this.triangle = nearest.triangle;
    this.depth = sign * distance;
    // On the surface itself the way to it has no direction; the triangle's normal has.
    if (distance > 1e-12) {
      this.gx = (sign * (x - nearest.x)) / distance;
      this.gy = (sign * (y - nearest.y)) / distance;
      this.gz = (sign * (z - nearest.z)) / distance;
    } else this.gradientFromNormal();
  }

  /** The side of the nearest triangle that a point lies on, where that tells it; 0 where a hole or an edge is in the way. */
  private sideOfTriangle(x: number, y: number, z: number): -1 | 0 | 1 {
    const { within, triangle, x: px, y: py, z: pz } = this.nearest;
    if (!within || this.body.isOpen) return 0;
    const { corners: c } = this.tree;
    const at = 9 * triangle;
    const ux = c[at + 3]! - c[at]!;
    const uy = c[at + 4]! - c[at + 1]!;
    const uz = c[at + 5]! - c[at + 2]!;
    const vx = c[at + 6]! - c[at]!;
    const vy = c[at + 7]! - c[at + 1]!;
    const vz = c[at + 8]! - c[at + 2]!;
    const over = (uy * vz - uz * vy) * (x - px) + (uz * vx - ux * vz) * (y - py) + (ux * vy - uy * vx) * (z - pz);
    return over < 0 ? 1 : over > 0 ? -1 : 0;
  }

  private gradientFromNormal(): void {
    const { corners: c } = this.tree;
    const at = 9 * this.triangle;
    const [ux, uy, uz] = [c[at + 3]! - c[at]!, c[at + 4]! - c[at + 1]!, c[at + 5]! - c[at + 2]!];
    const [vx, vy, vz] = [c[at + 6]! - c[at]!, c[at + 7]! - c[at + 1]!, c[at + 8]! - c[at + 2]!];
    const [nx, ny, nz] = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
    const length = Math.hypot(nx, ny, nz) || 1;
    this.gx = -nx / length;
    this.gy = -ny / length;
    this.gz = -nz / length;
  }
}
