import { neighboursOf } from '../body/neighbours.ts';

/** A place where the metal is thinner or thicker than is good, mm along the file's axes. */
export interface MetalPlace {
  readonly x: number;
  readonly y: number;
  readonly z: number;
  /** The metal there, mm: the thinnest of a thin place, the thickest of a thick one. */
  readonly mm: number;
  /** How much of the surface it takes. */
  readonly areaMm2: number;
}

/** Of a list of places only so many say anything. */
const MOST = 12;
/** A place smaller than this across is a sharp edge, not a thin wall, in walls. */
const LEAST_ACROSS = 1;

/**
 * How thick the metal is behind each vertex once the body is cast with a wall: where the body is thinner than two walls it is
 * solid, else the wall.
 */
export const metalThickness = (bodyMm: Float32Array, wallMm: number): Float32Array =>
  bodyMm.map((thick) => (thick <= 2 * wallMm ? thick : wallMm));

/**
 * The places of a surface that meet a condition, those that hang together as one, the largest first.
 * @param metalMm thickness behind each vertex; @param isBad whether one is bad; @param worse the worse of two
 */
export function metalPlaces(
  surface: {
    readonly positions: Float64Array;
    readonly triangles: Uint32Array;
    readonly originMm: readonly [number, number, number];
  },
  metalMm: Float32Array,
  isBad: (mm: number) => boolean,
  worse: (a: number, b: number) => number,
  wallMm: number,
): MetalPlace[] {
  const { positions: p, triangles, originMm } = surface;
  const count = metalMm.length;
  const area = vertexAreas(p, triangles);
  const { starts, list } = neighboursOf(triangles, count);
  const seen = new Uint8Array(count);
  const found: MetalPlace[] = [];
  for (let v = 0; v < count; v++) {
    if (seen[v] || metalMm[v] === 0 || !isBad(metalMm[v]!)) continue;
    const heap = [v];
    seen[v] = 1;
    let [at, sum] = [v, 0];
    while (heap.length > 0) {
      const w = heap.pop()!;
      sum += area[w]!;
      if (worse(metalMm[w]!, metalMm[at]!) === metalMm[w]) at = w;
      for (let n = starts[w]!; n < starts[w + 1]!; n++) {
        const next = list[n]!;
        if (seen[next] || metalMm[next] === 0 || !isBad(metalMm[next]!)) continue;
        seen[next] = 1;
        heap.push(next);
      }
    }
    if (sum < (LEAST_ACROSS * wallMm) ** 2) continue;
    const [x, y, z] = [0, 1, 2].map((k) => p[3 * at + k]! + originMm[k]!) as [number, number, number];
    found.push({ x, y, z, mm: metalMm[at]!, areaMm2: sum });
  }
  return found.sort((a, b) => b.areaMm2 - a.areaMm2).slice(0, MOST);
}

/** A third of every triangle round a vertex. */
function vertexAreas(p: Float64Array, triangles: Uint32Array): Float64Array {
  const area = new Float64Array(p.length / 3);
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = [3 * triangles[t]!, 3 * triangles[t + 1]!, 3 * triangles[t + 2]!];
    const [ux, uy, uz] = [p[b]! - p[a]!, p[b + 1]! - p[a + 1]!, p[b + 2]! - p[a + 2]!];
    const [vx, vy, vz] = [p[c]! - p[a]!, p[c + 1]! - p[a + 1]!, p[c + 2]! - p[a + 2]!];
    const third = Math.hypot(uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx) / 6;
    for (const vertex of [a / 3, b / 3, c / 3]) area[vertex]! += third;
  }
  return area;
}
