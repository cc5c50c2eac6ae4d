import type { Body } from '../body/body.ts';
import type { Neighbours } from '../body/neighbours.ts';

type Place = readonly [number, number, number];

/**
 * The place of a top, in mm along the file's axes: the vertex itself, or where it is a flat the middle of the flat, or
 * if that lies beside it (a ring, a crescent) the place on the flat that is nearest to it.
 * @param height the height of each vertex; @param flat what counts as level, in mm
 */
export function topOf(
  { body: { positions, originMm }, neighbours }: { readonly body: Body; readonly neighbours: Neighbours },
  vertex: number,
  height: Float64Array,
  flat: number,
): { x: number; y: number; z: number } {
  const level = height[vertex]! - flat;
  const { starts, list } = neighbours;
  const on = new Set([vertex]);
  for (const v of on)
    for (let n = starts[v]!; n < starts[v + 1]!; n++) if (height[list[n]!]! >= level) on.add(list[n]!);
  const at = (v: number): Place => [positions[3 * v]!, positions[3 * v + 1]!, positions[3 * v + 2]!];
  const faces: Place[][] = [];
  // The list holds the two other corners of each triangle one after the other.
  for (const v of on)
    for (let n = starts[v]!; n < starts[v + 1]!; n += 2) {
      const [b, c] = [list[n]!, list[n + 1]!];
      if (v < b && v < c && on.has(b) && on.has(c)) faces.push([at(v), at(b), at(c)]);
    }
  const [x, y, z] = faces.length === 0 ? middle([...on].map(at)) : middleOfFaces(faces);
  return { x: x + originMm[0], y: y + originMm[1], z: z + originMm[2] };
}

/** The place nearest to the middle of some places. */
function middle(places: readonly Place[]): Place {
  const mean = ([0, 1, 2] as const).map((k) => places.reduce((sum, place) => sum + place[k] / places.length, 0));
  return nearestTo(mean as unknown as Place, places);
}

function middleOfFaces(faces: readonly (readonly Place[])[]): Place {
  const mean: [number, number, number] = [0, 0, 0];
  const centres = faces.map(
    (face) => [0, 1, 2].map((k) => (face[0]![k]! + face[1]![k]! + face[2]![k]!) / 3) as unknown as Place,
  );
  const areas = faces.map((face) => size(areaOf(face[0]!, face[1]!, face[2]!)));
  const total = areas.reduce((sum, area) => sum + area, 0);
  centres.forEach((centre, i) => centre.forEach((value, k) => (mean[k]! += (value * areas[i]!) / total)));
  return faces.some((face) => holds(face, mean)) ? mean : nearestTo(mean, centres);
}

function nearestTo(place: Place, places: readonly Place[]): Place {
  const away = (other: Place) => Math.hypot(...other.map((value, k) => value - place[k]!));
  return places.reduce((best, other) => (away(other) < away(best) - 1e-9 ? other : best));
}

/** Whether a place in a triangle's plane lies in it: the three triangles it makes with the sides are together no larger. */
function holds([a, b, c]: readonly Place[], place: Place): boolean {
  const parts = size(areaOf(a!, b!, place)) + size(areaOf(b!, c!, place)) + size(areaOf(c!, a!, place));
  return parts <= size(areaOf(a!, b!, c!)) * (1 + 1e-6);
}

const size = (vector: Place): number => Math.hypot(...vector);

/** Twice the area of a triangle, as a vector. */
function areaOf(a: Place, b: Place, c: Place): Place {
  const [u, v] = [[0, 1, 2].map((k) => b[k]! - a[k]!), [0, 1, 2].map((k) => c[k]! - a[k]!)] as [number[], number[]];
  return [u[1]! * v[2]! - u[2]! * v[1]!, u[2]! * v[0]! - u[0]! * v[2]!, u[0]! * v[1]! - u[1]! * v[0]!];
}
