import type { Tree } from '../field/bvh.ts';
import { castRay } from '../field/ray.ts';
import type { Box } from './box.ts';

/** How shells lie in each other. */
export interface Nesting {
  /** For each shell the shells that hold it. */
  readonly inside: readonly ReadonlySet<number>[];
  /** Pairs of shells whose surfaces cut each other. */
  readonly crossing: readonly (readonly [number, number])[];
}

/** Directions of the rays that tell what a shell lies in: odd ones, so that no edge of an ordinary model lies along them. */
const RAYS = [
  [0.3141592, 0.2718281, 0.9098111],
  [-0.6180339, 0.5772156, 0.5337127],
  [0.1414213, -0.8660254, -0.4794621],
] as const;

export const apart = (a: Box, b: Box): boolean =>
  a.min.some((low, k) => low > b.max[k]!) || b.min.some((low, k) => low > a.max[k]!);

/**
 * Which shells lie in which. A shell lies in another when two of three rays from a place on it go out of that other.
 * @param shellOf the shell of a triangle by its number, −1 for none; @param placeOn a place on each shell
 */
export function nestShells(
  tree: Tree,
  shellOf: ArrayLike<number>,
  boxes: readonly Box[],
  placeOn: readonly (readonly [number, number, number])[],
): Nesting {
  const crossing = crossings(tree, shellOf, boxes);
  const crossed = new Set(crossing.flatMap(([a, b]) => [`${a} ${b}`, `${b} ${a}`]));
  const inside = placeOn.map((place, shell) => {
    const votes = new Map<number, number>();
    for (const direction of RAYS) {
      const net = new Map<number, number>();
      castRay(tree, place, direction, (triangle, _, out) => {
        const other = shellOf[triangle]!;
        if (other >= 0 && other !== shell) net.set(other, (net.get(other) ?? 0) + out);
      });
      for (const [other, sum] of net) if (sum % 2 !== 0) votes.set(other, (votes.get(other) ?? 0) + 1);
    }
    return new Set(
      [...votes].filter(([other, n]) => n >= 2 && !crossed.has(`${shell} ${other}`)).map(([other]) => other),
    );
  });
  return { inside, crossing };
}

/** Pairs of shells of which a triangle of one cuts a triangle of the other, by walking the tree against itself. */
function crossings(tree: Tree, shellOf: ArrayLike<number>, boxes: readonly Box[]): [number, number][] {
  const { first, size, ids, nodes } = tree;
  const only = new Int32Array(nodes);
  for (let node = nodes - 1; node >= 0; node--) {
    const parts =
      size[node]! > 0
        ? Array.from({ length: size[node]! }, (_, i) => shellOf[ids[first[node]! + i]!]!)
        : [only[first[node]!]!, only[first[node]! + 1]!];
    only[node] = parts.every((each) => each === parts[0]) ? parts[0]! : MIXED;
  }
  const found = new Map<string, [number, number]>();
  const open: number[] = [0, 0];
  while (open.length > 0) {
    const b = open.pop()!;
    const a = open.pop()!;
    if (!meet(tree, a, b)) continue;
    if (only[a]! !== MIXED && only[b]! !== MIXED) {
      if (only[a] === only[b] || only[a]! < 0 || only[b]! < 0) continue;
      if (found.has(keyOf(only[a]!, only[b]!)) || apart(boxes[only[a]!]!, boxes[only[b]!]!)) continue;
    }
    if (size[a]! > 0 && size[b]! > 0) {
      for (let i = first[a]!; i < first[a]! + size[a]!; i++)
        for (let j = a === b ? i + 1 : first[b]!; j < first[b]! + size[b]!; j++) {
          const [one, two] = [shellOf[ids[i]!]!, shellOf[ids[j]!]!];
          if (one === two || one < 0 || two < 0 || found.has(keyOf(one, two))) continue;
          if (cut(tree.corners, 9 * i, 9 * j)) found.set(keyOf(one, two), one < two ? [one, two] : [two, one]);
        }
      continue;
    }
    if (a === b) {
      const left = first[a]!;
      open.push(left, left, left + 1, left + 1, left, left + 1);
    } else if (size[a] === 0 && (size[b]! > 0 || first[a]! < first[b]!)) open.push(first[a]!, b, first[a]! + 1, b);
    else open.push(a, first[b]!, a, first[b]! + 1);
  }
  return [...found.values()];
}

const MIXED = -2;
const keyOf = (a: number, b: number): string => (a < b ? `${a} ${b}` : `${b} ${a}`);

function meet({ boxes }: Tree, a: number, b: number): boolean {
  for (let k = 0; k < 3; k++)
    if (boxes[6 * a + k]! > boxes[6 * b + 3 + k]! || boxes[6 * b + k]! > boxes[6 * a + 3 + k]!) return false;
  return true;
}

/** Whether an edge of one triangle goes through the other. Triangles that only touch, or lie in one plane, do not cut. */
function cut(c: Float64Array, a: number, b: number): boolean {
  for (let k = 0; k < 3; k++) {
    const next = 3 * ((k + 1) % 3);
    if (pierces(c, a + 3 * k, a + next, b) || pierces(c, b + 3 * k, b + next, a)) return true;
  }
  return false;
}

/** Six times the volume of a tetrahedron of four places in the corners. */
function volume(c: Float64Array, p: number, q: number, r: number, s: number): number {
  const [ax, ay, az] = [c[p]! - c[s]!, c[p + 1]! - c[s + 1]!, c[p + 2]! - c[s + 2]!];
  const [bx, by, bz] = [c[q]! - c[s]!, c[q + 1]! - c[s + 1]!, c[q + 2]! - c[s + 2]!];
  const [dx, dy, dz] = [c[r]! - c[s]!, c[r + 1]! - c[s + 1]!, c[r + 2]! - c[s + 2]!];
  return ax * (by * dz - bz * dy) + ay * (bz * dx - bx * dz) + az * (bx * dy - by * dx);
}

function pierces(c: Float64Array, p: number, q: number, t: number): boolean {
  const above = volume(c, t, t + 3, t + 6, p);
  const below = volume(c, t, t + 3, t + 6, q);
  if (above * below >= 0) return false;
  const one = volume(c, p, q, t, t + 3);
  const two = volume(c, p, q, t + 3, t + 6);
  const three = volume(c, p, q, t + 6, t);
  // Going through the very edge of a triangle counts: boxes that overlap evenly cut each other nowhere else.
  return (one >= 0 && two >= 0 && three >= 0) || (one <= 0 && two <= 0 && three <= 0);
}
