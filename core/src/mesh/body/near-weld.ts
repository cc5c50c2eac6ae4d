import { listUnder } from '../../units/lists.ts';
import { diagonalOf, boxOf } from './box.ts';
import { OPEN, matchEdges, nextHalf } from './edges.ts';
import type { Edges } from './edges.ts';

/** Shares of the diagonal within which open vertices are welded, the least that helps being taken. */
const SHARES = [1e-7, 1e-6, 1e-5, 1e-4];

/** A mesh whose open edges were closed as far as a tolerance goes. */
export interface NearWelded {
  readonly triangles: Uint32Array;
  readonly edges: Edges;
  /** Within how many mm vertices were taken for one; 0 where that was not needed or did not help. */
  readonly toleranceMm: number;
  readonly weldedVertices: number;
}

/**
 * Welds vertices on open edges that nearly meet, with growing tolerance until no edge is open. Only vertices of open
 * edges are moved together, and never two of one triangle, so fine detail stays.
 * @param grainMm how exactly the file can say a place; two vertices may differ by that and be meant as one
 */
export function weldNear(positions: Float64Array, triangles: Uint32Array, edges: Edges, grainMm: number): NearWelded {
  const none = { triangles, edges, toleranceMm: 0, weldedVertices: 0 };
  if (edges.open === 0) return none;
  const diagonal = diagonalOf(boxOf(positions));
  const candidates = openVertices(triangles, edges);
  let best: NearWelded = none;
  for (const share of SHARES) {
    const toleranceMm = Math.max(share * diagonal, Math.min(2 * grainMm, 1e-4 * diagonal));
    if (toleranceMm <= best.toleranceMm) continue;
    const { renumber, moved } = nearest(positions, candidates, toleranceMm);
    if (moved === 0 || moved === best.weldedVertices) continue;
    const welded = triangles.map((vertex) => renumber.get(vertex) ?? vertex);
    keepWhole(triangles, welded);
    const matched = matchEdges(welded, positions.length / 3);
    const gained = best.edges.open - matched.open - 2 * Math.max(0, matched.nonManifold - best.edges.nonManifold);
    if (gained > 0) best = { triangles: welded, edges: matched, toleranceMm, weldedVertices: moved };
    if (matched.open === 0) break;
  }
  return best;
}

function openVertices(triangles: Uint32Array, edges: Edges): number[] {
  const found = new Set<number>();
  edges.other.forEach((across, half) => {
    if (across !== OPEN) return;
    found.add(triangles[half]!);
    found.add(triangles[nextHalf(half)]!);
  });
  return [...found].sort((a, b) => a - b);
}

/** For each vertex the first one before it that lies within the tolerance, looked up in a grid of that width. */
function nearest(positions: Float64Array, vertices: readonly number[], tolerance: number) {
  const renumber = new Map<number, number>();
  const grid = new Map<string, number[]>();
  const cell = (value: number) => Math.floor(value / tolerance);
  for (const vertex of vertices) {
    const [x, y, z] = [positions[3 * vertex]!, positions[3 * vertex + 1]!, positions[3 * vertex + 2]!];
    const [i, j, k] = [cell(x), cell(y), cell(z)];
    let near: number | undefined;
    let nearestSquare = tolerance * tolerance;
    for (let n = 0; n < 27; n++)
      for (const other of grid.get(
        `${i + (n % 3) - 1},${j + (Math.floor(n / 3) % 3) - 1},${k + Math.floor(n / 9) - 1}`,
      ) ?? []) {
        const square =
          (positions[3 * other]! - x) ** 2 +
          (positions[3 * other + 1]! - y) ** 2 +
          (positions[3 * other + 2]! - z) ** 2;
        if (square > nearestSquare) continue;
        near = other;
        nearestSquare = square;
      }
    if (near !== undefined) renumber.set(vertex, near);
    else {
      const key = `${i},${j},${k}`;
      listUnder(grid, key, vertex);
    }
  }
  return { renumber, moved: renumber.size };
}

/** A triangle that would lose a corner keeps the vertices it had. */
function keepWhole(before: Uint32Array, after: Uint32Array): void {
  for (let h = 0; h < after.length; h += 3) {
    const [a, b, c] = [after[h], after[h + 1], after[h + 2]];
    if (a !== b && b !== c && c !== a) continue;
    for (let k = h; k < h + 3; k++) after[k] = before[k]!;
  }
}
