import { listUnder } from '../../units/lists.ts';
import type { Edges } from './edges.ts';

/**
 * The triangles without doubles: of several on the same three vertices one stays, or none where they face each other
 * and so bound nothing. Doubles can only lie where three or more triangles share an edge.
 */
export function withoutDoubles(triangles: Uint32Array, edges: Edges): { triangles: Uint32Array; dropped: number } {
  const crowded = new Set<number>();
  for (const half of edges.crowds) crowded.add((half / 3) | 0);
  const groups = new Map<string, number[]>();
  for (const t of crowded) {
    const key = [triangles[3 * t]!, triangles[3 * t + 1]!, triangles[3 * t + 2]!].sort((a, b) => a - b).join(' ');
    listUnder(groups, key, t);
  }
  const drop = new Set<number>();
  for (const same of groups.values()) {
    if (same.length < 2) continue;
    const facing = same.map((t) => way(triangles, t));
    const net = facing.reduce((sum, each) => sum + each, 0);
    const keep = net === 0 ? -1 : facing.indexOf(Math.sign(net));
    same.forEach((t, i) => i !== keep && drop.add(t));
  }
  if (drop.size === 0) return { triangles, dropped: 0 };
  const left = new Uint32Array(triangles.length - 3 * drop.size);
  let at = 0;
  for (let t = 0; t < triangles.length / 3; t++) {
    if (drop.has(t)) continue;
    left.set(triangles.subarray(3 * t, 3 * t + 3), at);
    at += 3;
  }
  return { triangles: left, dropped: drop.size };
}

/** 1 where the corners run in the order of their numbers, −1 otherwise. */
function way(triangles: Uint32Array, t: number): number {
  const [a, b, c] = [triangles[3 * t]!, triangles[3 * t + 1]!, triangles[3 * t + 2]!];
  return (a < b ? 1 : 0) + (b < c ? 1 : 0) + (c < a ? 1 : 0) >= 2 ? 1 : -1;
}
