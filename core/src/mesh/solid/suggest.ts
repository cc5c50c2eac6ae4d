import type { Body } from '../body/body.ts';
import { boxOf, sidesOf } from '../body/box.ts';
import { MeshFault, step } from '../fault.ts';
import type { Watch } from '../fault.ts';
import type { Direction } from '../direction.ts';
import type { Closed, Kernel, Plane } from './kernel.ts';
import { profileAlong } from './profile.ts';

/** What a part is judged by. */
export interface PartSize {
  readonly sizeMm: readonly [number, number, number];
  /** Outer surface without what cuts left. */
  readonly skinMm2: number;
}

/** Planes that are proposed at most: more sections than these want a person's eye. */
const MOST_PLANES = 6;
/** Places that are looked at along each axis; none nearer to an end than this share. */
const PLACES = 40;
const FROM_END = 0.08;
const AXES: readonly Direction[] = [
  [1, 0, 0],
  [0, 1, 0],
  [0, 0, 1],
];

/**
 * Proposes where to cut a body so that every part fits: the fewest planes, and of places that serve as well the ones where
 * the body is narrow. A part that is too large is cut again.
 * @param excess how far a part is beyond the limits: at most 1 where it fits
 * @returns planes in mm along the file's axes; none where the body fits whole
 * @throws MeshFault where the body encloses nothing; Cancelled
 */
export function suggestCuts(body: Body, kernel: Kernel, excess: (part: PartSize) => number, watch?: Watch): Plane[] {
  if (body.volumeMm3 === undefined) throw new MeshFault('the model encloses nothing, so it cannot be cut');
  const whole: Closed = { positions: body.positions, triangles: body.triangles };
  const planes: Plane[] = [];
  while (planes.length < MOST_PLANES) {
    step(watch, planes.length / MOST_PLANES, 'looking for narrow places');
    const parts = planes.length === 0 ? [whole] : kernel.split(whole, planes);
    const judged = parts.map((part) => ({ part, over: excess(sizeOf(part, planes)) }));
    const worst = judged.reduce((most, each) => (each.over > most.over ? each : most));
    if (worst.over <= 1) break;
    planes.push(bestCut(worst.part, planes, excess));
  }
  return planes.map(({ normal, offsetMm }) => ({
    normal,
    offsetMm: offsetMm + normal.reduce((sum, each, k) => sum + each * body.originMm[k]!, 0),
  }));
}

/** A plane through a part: such that both sides fit, at the shortest seam; else such that they are least too large. */
function bestCut(part: Closed, before: readonly Plane[], excess: (part: PartSize) => number): Plane {
  let best: { plane: Plane; score: number } | undefined;
  for (const normal of AXES) {
    const sections = profileAlong(part, normal, PLACES);
    const kept = sections.slice(Math.ceil(PLACES * FROM_END), Math.floor(PLACES * (1 - FROM_END)));
    for (const { offset, outlineMm } of kept) {
      const plane: Plane = { normal, offsetMm: offset };
      const over = Math.max(...sidesOfCut(part, plane, before).map(excess));
      // Within the limits only the seam counts; beyond them how far.
      const score = over <= 1 ? outlineMm : 1e9 * over + outlineMm;
      if (!best || score < best.score) best = { plane, score };
    }
  }
  return best!.plane;
}

/** How large a part is; triangles in a plane that cut it are no skin. */
export function sizeOf(part: Closed, planes: readonly Plane[]): PartSize {
  const [x, y, z] = sidesOf(boxOf(part.positions));
  return { sizeMm: [x, y, z], skinMm2: skinOf(part, planes, () => true) };
}

/** Both sides of a plane as they will be, without cutting: boxes round the vertices, skin by the triangles' middles. */
function sidesOfCut(part: Closed, plane: Plane, before: readonly Plane[]): PartSize[] {
  const { positions, triangles } = part;
  const away = (i: number) =>
    plane.normal.reduce((sum, each, k) => sum + each * positions[3 * i + k]!, -plane.offsetMm);
  return [1, -1].map((side) => {
    const min = [Infinity, Infinity, Infinity];
    const max = [-Infinity, -Infinity, -Infinity];
    for (let i = 0; i < positions.length / 3; i++) {
      if (away(i) * side < 0) continue;
      for (let k = 0; k < 3; k++) {
        min[k] = Math.min(min[k]!, positions[3 * i + k]!);
        max[k] = Math.max(max[k]!, positions[3 * i + k]!);
      }
    }
    // Along the plane's direction it ends at the plane itself.
    const axis = plane.normal.findIndex((each) => each !== 0);
    if (side > 0) min[axis] = plane.offsetMm;
    else max[axis] = plane.offsetMm;
    const middle = (t: number) => away(triangles[t]!) + away(triangles[t + 1]!) + away(triangles[t + 2]!);
    const skinMm2 = skinOf(part, before, (t) => middle(t) * side >= 0);
    return { sizeMm: [0, 1, 2].map((k) => Math.max(0, max[k]! - min[k]!)) as [number, number, number], skinMm2 };
  });
}

function skinOf({ positions: p, triangles }: Closed, planes: readonly Plane[], counts: (t: number) => boolean): number {
  let sum = 0;
  const far = p.reduce((most, each) => Math.max(most, Math.abs(each)), 0);
  const inPlane = (i: number) =>
    planes.some(
      ({ normal, offsetMm }) =>
        Math.abs(normal.reduce((each, n, k) => each + n * p[3 * i + k]!, -offsetMm)) < 1e-5 * far,
    );
  for (let t = 0; t < triangles.length; t += 3) {
    if (!counts(t)) continue;
    const corners = [triangles[t]!, triangles[t + 1]!, triangles[t + 2]!] as const;
    if (planes.length > 0 && corners.every(inPlane)) continue;
    const [a, b, c] = corners.map((corner) => 3 * corner) as [number, number, number];
    const [ux, uy, uz] = [p[b]! - p[a]!, p[b + 1]! - p[a + 1]!, p[b + 2]! - p[a + 2]!];
    const [vx, vy, vz] = [p[c]! - p[a]!, p[c + 1]! - p[a + 1]!, p[c + 2]! - p[a + 2]!];
    sum += Math.hypot(uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx) / 2;
  }
  return sum;
}
