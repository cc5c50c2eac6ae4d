import type { Direction } from '../direction.ts';
import type { Body } from '../body/body.ts';
import { MeshFault, step } from '../fault.ts';
import type { Watch } from '../fault.ts';
import type { Tree } from '../field/bvh.ts';
import { buildTree } from '../field/bvh.ts';
import { castRay } from '../field/ray.ts';
import { neighboursOf } from '../body/neighbours.ts';
import type { Neighbours } from '../body/neighbours.ts';
import { orderDown } from './radix.ts';
import { topOf } from './top.ts';

/** A place where air is trapped in the mould when the metal rises, and wants a vent. */
export interface Trap {
  /** In mm along the file's axes. */
  readonly x: number;
  readonly y: number;
  readonly z: number;
  /** How far the metal would have to fall from there before it could rise to a higher place; the full height for the highest. */
  readonly prominenceMm: number;
}

export interface Traps {
  readonly up: Direction;
  /** Highest prominence first. */
  readonly traps: readonly Trap[];
  /** The lowest places, where the metal may come in, found in the same way from below. */
  readonly lowest: readonly Trap[];
  /** From the lowest to the highest place. */
  readonly heightMm: number;
}

/** A high place counts when it stands above its surroundings by this share of the height. */
export const DEFAULT_PROMINENCE = 0.02;

/** Triangles in a leaf of the tree: a few rays are sent for the ceilings, which does not pay for a fine one. */
const COARSE = 48;

/** What does not depend on the way up: made once for many orientations. */
export class Pourable {
  readonly neighbours: Neighbours;
  readonly vertices: number;
  private kept: Tree | undefined;

  /** @throws MeshFault where the model encloses nothing */
  constructor(readonly body: Body) {
    if (body.volumeMm3 === undefined)
      throw new MeshFault('the model encloses nothing, so nothing can be poured into it');
    this.vertices = body.positions.length / 3;
    this.neighbours = neighboursOf(body.triangles, this.vertices);
  }

  get tree(): Tree {
    return (this.kept ??= buildTree(this.body.positions, this.body.triangles, COARSE));
  }
}

/**
 * Where air is trapped when the metal rises in an orientation: the high places of the metal with their prominence
 * (0-dimensional persistence of the height on the solid, H. Edelsbrunner and others, 2002). The solid above a level falls
 * into parts; going down, a part is born at each high place, and where two meet the lower one's place has its
 * prominence. The parts are followed on the surface: its vertices are taken from the highest down, and a high place that
 * has metal above it, the ceiling of a hollow or of an undercut, is joined to what lies above.
 * @param up the way up; @param least the least prominence that counts, as a share of the height
 * @throws MeshFault where `up` has no direction; Cancelled
 */
export function findTraps(model: Pourable, up: Direction, least = DEFAULT_PROMINENCE, watch?: Watch): Traps {
  const length = Math.hypot(...up);
  if (!(length > 0) || !Number.isFinite(length)) throw new MeshFault(`up needs a direction, not ${up.join(',')}`);
  if (!(least >= 0 && least <= 1)) throw new MeshFault(`the prominence must be from 0 to 1, not ${least}`);
  const way = up.map((each) => each / length) as [number, number, number];
  step(watch, 0.1, 'looking for traps');
  const traps = peaks(model, way, least);
  step(watch, 0.6, 'looking for the lowest places');
  const lowest = peaks(model, way.map((each) => -each) as [number, number, number], least);
  return { up: way, traps: traps.found, lowest: lowest.found, heightMm: traps.height };
}

/** The high places along a way of length 1, those alone that stand above their surroundings by enough. */
export function peaks(model: Pourable, way: Direction, least: number): { found: Trap[]; height: number } {
  const { body, neighbours, vertices } = model;
  const { positions } = body;
  const height = new Float64Array(vertices);
  let [low, high] = [Infinity, -Infinity];
  for (let v = 0; v < vertices; v++) {
    const h = positions[3 * v]! * way[0] + positions[3 * v + 1]! * way[1] + positions[3 * v + 2]! * way[2];
    height[v] = h;
    if (neighbours.starts[v] === neighbours.starts[v + 1]) continue;
    if (h < low) low = h;
    if (h > high) high = h;
  }
  const enough = Math.max(least * (high - low), 1e-9 * (high - low));
  const order = orderDown(height);
  const rank = new Int32Array(vertices);
  for (let i = 0; i < vertices; i++) rank[order[i]!] = i;
  const above = new Int32Array(vertices).fill(-1);
  /** The highest peak of each part by its root, −1 for a part that only hangs under a ceiling. */
  const peak = new Int32Array(vertices).fill(-1);
  const lowest = new Float64Array(vertices);
  const root = (v: number): number => {
    while (above[v] !== v) v = above[v] = above[above[v]!]!;
    return v;
  };
  const found: { vertex: number; prominence: number }[] = [];
  const join = (one: number, other: number, level: number) => {
    const [a, b] = [root(one), root(other)];
    if (a === b) return;
    // The part with the higher place lives on; a part without a place of its own takes the other's.
    const [elder, younger] = peak[b]! < 0 || (peak[a]! >= 0 && rank[peak[a]!]! < rank[peak[b]!]!) ? [a, b] : [b, a];
    if (peak[younger]! >= 0 && height[peak[younger]!]! - level >= enough)
      found.push({ vertex: peak[younger]!, prominence: height[peak[younger]!]! - level });
    above[younger] = elder;
  };
  for (let i = 0; i < vertices; i++) {
    const v = order[i]!;
    const [from, to] = [neighbours.starts[v]!, neighbours.starts[v + 1]!];
    if (from === to) continue;
    above[v] = v;
    let alone = true;
    for (let n = from; n < to; n++) {
      const other = neighbours.list[n]!;
      if (rank[other]! >= i) continue;
      alone = false;
      join(v, other, height[v]!);
    }
    if (alone) {
      if (isPeak(model, v, way)) peak[v] = v;
      else {
        const over = metalAbove(model, v, way, rank, i);
        if (over >= 0) join(v, over, height[v]!);
      }
    }
    lowest[root(v)] = height[v]!;
  }
  const roots = new Set<number>();
  for (let v = 0; v < vertices; v++) if (above[v]! >= 0) roots.add(root(v));
  for (const r of roots)
    if (peak[r]! >= 0 && height[peak[r]!]! - lowest[r]! >= enough)
      found.push({ vertex: peak[r]!, prominence: height[peak[r]!]! - lowest[r]! });
  found.sort((a, b) => b.prominence - a.prominence || rank[a.vertex]! - rank[b.vertex]!);
  return {
    found: found.map(({ vertex, prominence }) => ({
      ...topOf(model, vertex, height, 1e-5 * (high - low)),
      prominenceMm: prominence,
    })),
    height: high - low,
  };
}

/**
 * Whether the metal at a highest vertex lies below it: the surface there faces up. Else it is a ceiling, with metal above.
 * The normal of a vertex is that of its triangles, each by its angle there (J. Bærentzen and H. Aanæs, 2005), which does
 * not depend on how a face is cut into triangles.
 */
function isPeak(
  { body: { positions: p }, neighbours: { starts, list } }: Pourable,
  v: number,
  way: Direction,
): boolean {
  let facing = 0;
  // The list holds the two other corners of each triangle one after the other, in the triangle's own direction.
  for (let n = starts[v]!; n < starts[v + 1]!; n += 2) {
    const [b, c] = [list[n]!, list[n + 1]!];
    const [ux, uy, uz] = [p[3 * b]! - p[3 * v]!, p[3 * b + 1]! - p[3 * v + 1]!, p[3 * b + 2]! - p[3 * v + 2]!];
    const [wx, wy, wz] = [p[3 * c]! - p[3 * v]!, p[3 * c + 1]! - p[3 * v + 1]!, p[3 * c + 2]! - p[3 * v + 2]!];
    const [nx, ny, nz] = [uy * wz - uz * wy, uz * wx - ux * wz, ux * wy - uy * wx];
    const length = Math.sqrt(nx * nx + ny * ny + nz * nz);
    if (length === 0) continue;
    const angle = Math.atan2(length, ux * wx + uy * wy + uz * wz);
    facing += ((nx * way[0] + ny * way[1] + nz * way[2]) / length) * angle;
  }
  return facing > 0;
}

/** A vertex that was taken before and that the metal straight above a ceiling leads up to; −1 where there is none (an open model). */
function metalAbove(model: Pourable, v: number, way: Direction, rank: Int32Array, before: number): number {
  const { body, tree } = model;
  const { positions, triangles } = body;
  const from = [positions[3 * v]!, positions[3 * v + 1]!, positions[3 * v + 2]!] as const;
  let nearest = Infinity;
  let over = -1;
  castRay(tree, from, way, (triangle, distance, out) => {
    if (out < 0 || distance >= nearest) return;
    const corners = [triangles[3 * triangle]!, triangles[3 * triangle + 1]!, triangles[3 * triangle + 2]!];
    if (corners.includes(v)) return;
    // From where the ray comes out its triangle leads up to its highest corner, which was taken before.
    const highest = corners.reduce((best, corner) => (rank[corner]! < rank[best]! ? corner : best));
    if (rank[highest]! >= before) return;
    nearest = distance;
    over = highest;
  });
  return over;
}
