import { MeshFault, step } from '../fault.ts';
import type { Watch } from '../fault.ts';
import type { SolidField } from './solid-field.ts';

/** How thick the metal is: the diameters of the largest balls in it that touch the surface at places all over it. */
export interface Thickness {
  /** Of one hundredth of the surface the metal is thinner: sharp edges and points alone do not count. */
  readonly thinnestMm: number;
  /** Half the surface has thicker metal behind it. */
  readonly typicalMm: number;
  readonly thickestMm: number;
}

/** A ball may reach beyond the surface by this share of its radius: the facets of a curved surface are no edges. */
const SLACK = 0.02;
const SAMPLES = 4000;
const THINNEST_SHARE = 0.01;

/**
 * The diameter of the largest ball inside the body that touches the surface at a place of it, in mm. Beginning with the
 * ball that shrinks until nothing of the surface is in it (J. Ma and others, 3D medial axis point approximation, 2012),
 * it is let grow along the way on which the depth grows, as long as it still reaches the place.
 * @param x, y, z the place, on a triangle; @param n the triangle's outward normal
 */
export function thicknessAt(field: SolidField, [x, y, z]: Place, [nx, ny, nz]: Place, most: number): number {
  let radius = most;
  for (let round = 0; round < 30; round++) {
    const [cx, cy, cz] = [x - nx * radius, y - ny * radius, z - nz * radius];
    // Only what lies in the ball matters, which in the middle of a round body spares looking at all of it.
    field.nearest.find(cx, cy, cz, -1, (radius * (1 - SLACK / 4)) ** 2);
    const { x: qx, y: qy, z: qz } = field.nearest;
    if (field.nearest.triangle < 0) break;
    // The ball that touches at the place and goes through the point found.
    const [dx, dy, dz] = [x - qx, y - qy, z - qz];
    const along = dx * nx + dy * ny + dz * nz;
    const next = along > 0 ? (dx * dx + dy * dy + dz * dz) / (2 * along) : 0;
    if (!(next < radius) || next <= 0) break;
    radius = next;
  }
  return 2 * grow(field, [x, y, z], [x - nx * radius, y - ny * radius, z - nz * radius], radius);
}

type Place = readonly [number, number, number];

/** Moves a ball to where it can be larger, as long as it still reaches the place. */
function grow(field: SolidField, [x, y, z]: Place, start: Place, radius: number): number {
  let [cx, cy, cz] = start;
  let best = radius * (1 - SLACK);
  field.ask(cx, cy, cz, 1);
  let way: Place = [field.gx, field.gy, field.gz];
  let hint = field.triangle;
  for (let size = radius; size > 0.01 * radius;) {
    const [mx, my, mz] = [cx + way[0] * size, cy + way[1] * size, cz + way[2] * size];
    const away = Math.sqrt((mx - x) ** 2 + (my - y) ** 2 + (mz - z) ** 2);
    // Anything nearer than this would make the ball smaller, or keep it from reaching the place.
    const least = Math.max(best * 1.001, away / (1 + SLACK));
    field.nearest.find(mx, my, mz, hint, least * least);
    if (field.nearest.triangle >= 0) size /= 2;
    else {
      field.ask(mx, my, mz, 1, hint);
      [cx, cy, cz, best] = [mx, my, mz, field.depth];
      way = [field.gx, field.gy, field.gz];
      hint = field.triangle;
    }
  }
  return Math.max(best, radius);
}

/**
 * Thickest, typical and thinnest metal, from places spread evenly over the surface.
 * @throws MeshFault where the model encloses nothing; Cancelled
 */
export function measureThickness(field: SolidField, watch?: Watch, samples = SAMPLES): Thickness {
  const { body } = field;
  if (body.volumeMm3 === undefined) throw new MeshFault('the model encloses nothing, so it has no thickness');
  const { areaMm2, triangles, capsFrom, positions } = body;
  const most = bound(field);
  const found: number[] = [];
  // Every so much area one place; within a triangle the places follow a sequence that fills it evenly.
  const each = areaMm2 / samples;
  let waiting = each / 2;
  for (let t = 0; t < capsFrom; t++) {
    const [a, b, c] = [3 * triangles[3 * t]!, 3 * triangles[3 * t + 1]!, 3 * triangles[3 * t + 2]!];
    const { normal, area } = normalOf(positions, a, b, c);
    for (waiting -= area; waiting < 0 && area > 0; waiting += each) {
      const [u, v] = spread(found.length);
      const place = ([0, 1, 2] as const).map(
        (k) => positions[a + k]! * (1 - u - v) + positions[b + k]! * u + positions[c + k]! * v,
      ) as unknown as Place;
      if (found.length % 500 === 0) step(watch, Math.min(1, found.length / samples), 'measuring the thickness');
      found.push(thicknessAt(field, place, normal, most));
    }
  }
  const sorted = found.sort((one, other) => one - other);
  const at = (share: number) => sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))] ?? 0;
  return { thinnestMm: at(THINNEST_SHARE), typicalMm: at(0.5), thickestMm: at(1) };
}

/** The thickness behind each vertex, in mm, for a map: the largest of those in the middle of its triangles. 0 where none was asked. */
export function thicknessPerVertex(field: SolidField, watch?: Watch): Float32Array {
  const { positions, triangles, capsFrom } = field.body;
  const result = new Float32Array(positions.length / 3);
  const most = bound(field);
  for (let t = 0; t < capsFrom; t++) {
    if (t % 1000 === 0) step(watch, t / capsFrom, 'measuring the thickness');
    const [a, b, c] = [3 * triangles[3 * t]!, 3 * triangles[3 * t + 1]!, 3 * triangles[3 * t + 2]!];
    const { normal, area } = normalOf(positions, a, b, c);
    if (area === 0) continue;
    const place = ([0, 1, 2] as const).map((k) => (positions[a + k]! + positions[b + k]! + positions[c + k]!) / 3);
    const thick = thicknessAt(field, place as unknown as Place, normal, most);
    for (const vertex of [a / 3, b / 3, c / 3]) result[vertex] = Math.max(result[vertex]!, thick);
  }
  return result;
}

/** No ball in a body is larger than that which has its volume. */
const bound = ({ body }: SolidField): number => Math.cbrt(((body.volumeMm3 ?? 0) * 3) / (4 * Math.PI)) * 1.01;

function normalOf(p: Float64Array, a: number, b: number, c: number): { normal: Place; area: number } {
  const [ux, uy, uz] = [p[b]! - p[a]!, p[b + 1]! - p[a + 1]!, p[b + 2]! - p[a + 2]!];
  const [vx, vy, vz] = [p[c]! - p[a]!, p[c + 1]! - p[a + 1]!, p[c + 2]! - p[a + 2]!];
  const [nx, ny, nz] = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
  const length = Math.sqrt(nx * nx + ny * ny + nz * nz);
  return length > 0
    ? { normal: [nx / length, ny / length, nz / length], area: length / 2 }
    : { normal: [0, 0, 1], area: 0 };
}

/** Places in a triangle that fill it evenly one after another (the R₂ sequence, M. Roberts), as two weights. */
function spread(i: number): [number, number] {
  const [u, v] = [(0.5 + i * 0.7548776662466927) % 1, (0.5 + i * 0.5698402909980532) % 1];
  return u + v > 1 ? [1 - u, 1 - v] : [u, v];
}
