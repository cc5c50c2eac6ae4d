import type { Body } from '../body/body.ts';
import { matchEdges, nextHalf } from '../body/edges.ts';
import { sumUp } from '../body/sums.ts';
import { MeshFault } from '../fault.ts';
import type { Closed, Kernel, Plane } from './kernel.ts';

/** A section of a model, closed where it was cut. */
export interface CutSection {
  /** In mm about the model's origin, facing outward. */
  readonly mesh: Closed;
  readonly originMm: readonly [number, number, number];
  readonly volumeMm3: number;
  /** All of its surface, the cuts included. */
  readonly areaMm2: number;
  readonly centroidMm: readonly [number, number, number];
  readonly cuts: readonly Cut[];
}

/** A face that a plane left on a section: what is joined and chased later. */
export interface Cut {
  /** Which of the planes. */
  readonly plane: number;
  readonly areaMm2: number;
  /** Length of its outline, holes included: the seam. */
  readonly outlineMm: number;
}

/**
 * Cuts a body by planes into closed sections, the largest first.
 * @param planes in mm along the file's axes
 * @throws MeshFault where the body cannot be cut or a plane misses it
 */
export function cutSections(body: Body, planes: readonly Plane[], kernel: Kernel): CutSection[] {
  if (body.volumeMm3 === undefined) throw new MeshFault('the model encloses nothing, so it cannot be cut');
  const own = planes.map(({ normal, offsetMm }) => ({
    normal,
    offsetMm: offsetMm - normal.reduce((sum, each, k) => sum + each * body.originMm[k]!, 0),
  }));
  const pieces = kernel.split({ positions: body.positions, triangles: body.triangles }, own);
  const sections = pieces.map((mesh) => measure(mesh, body, own));
  own.forEach((_, plane) => {
    if (!sections.some(({ cuts }) => cuts.some((cut) => cut.plane === plane)))
      throw new MeshFault(`plane ${plane + 1} does not go through the model`);
  });
  return sections.sort((a, b) => b.volumeMm3 - a.volumeMm3);
}

function measure(mesh: Closed, body: Body, planes: readonly Plane[]): CutSection {
  const { positions, triangles } = mesh;
  const [sums] = sumUp(
    positions,
    triangles,
    1,
    () => 0,
    () => false,
  );
  const { volume, area, moment } = sums!;
  const cutOf = cutPlanes(mesh, planes);
  const areas = sumUp(
    positions,
    triangles,
    planes.length,
    (t) => cutOf[t]!,
    () => false,
  );
  const outlines = new Float64Array(planes.length);
  const { other } = matchEdges(triangles, positions.length / 3);
  for (let half = 0; half < other.length; half++) {
    const cut = cutOf[(half / 3) | 0]!;
    if (cut < 0 || other[half]! < 0 || cutOf[(other[half]! / 3) | 0] === cut) continue;
    const [a, b] = [3 * triangles[half]!, 3 * triangles[nextHalf(half)]!];
    outlines[cut]! += Math.hypot(...[0, 1, 2].map((k) => positions[a + k]! - positions[b + k]!));
  }
  return {
    mesh,
    originMm: body.originMm,
    volumeMm3: volume,
    areaMm2: area,
    centroidMm: [0, 1, 2].map((k) => body.originMm[k]! + moment[k]! / volume) as [number, number, number],
    cuts: areas.flatMap((sum, plane) =>
      sum.area > 0 ? [{ plane, areaMm2: sum.area, outlineMm: outlines[plane]! }] : [],
    ),
  };
}

/** The plane that a triangle lies in, −1 for none: all of its corners within single precision of it. */
function cutPlanes({ positions, triangles }: Closed, planes: readonly Plane[]): Int32Array {
  const farthest = positions.reduce((most, each) => Math.max(most, Math.abs(each)), 0);
  const near = 1e-5 * farthest;
  const found = new Int32Array(triangles.length / 3).fill(-1);
  planes.forEach(({ normal, offsetMm }, plane) => {
    const length = Math.hypot(...normal);
    const away = (vertex: number) =>
      Math.abs(normal.reduce((sum, each, k) => sum + each * positions[3 * vertex + k]!, -offsetMm)) / length;
    for (let t = 0; t < found.length; t++)
      if (found[t]! < 0 && [0, 1, 2].every((k) => away(triangles[3 * t + k]!) <= near)) found[t] = plane;
  });
  return found;
}
