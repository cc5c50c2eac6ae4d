import { MeshFault } from '../fault.ts';
import { LIMITS } from '../limits.ts';
import type { Welded } from '../weld.ts';
import { weldIndexed } from '../weld.ts';
import { Collector, TOO_MANY } from './collect.ts';
import { determinant, placeAxis } from './matrix.ts';
import type { Placement } from './matrix.ts';

/** A mesh that is placed one or several times. */
export interface Part {
  readonly positions: Float64Array;
  readonly triangles: Uint32Array;
}

/**
 * Puts placed parts together into one mesh. A placement that mirrors turns its triangles over, so that outside stays
 * outside. @throws MeshFault where all copies together are too many
 */
export function assemble(placements: readonly { readonly part: Part; readonly at: Placement }[]): Welded {
  let total = 0;
  let vertices = 0;
  for (const { part } of placements) {
    total += part.triangles.length / 3;
    vertices += part.positions.length / 3;
    if (total > LIMITS.triangles) throw new MeshFault(TOO_MANY);
  }
  const mesh = new Collector(vertices, total);
  for (const { part, at } of placements) {
    const { positions, triangles } = part;
    const first = mesh.vertexCount;
    for (let i = 0; i < positions.length; i += 3) {
      const [x, y, z] = [positions[i]!, positions[i + 1]!, positions[i + 2]!];
      mesh.vertex(
        placeAxis(at, 0, x, y, z),
        placeAxis(at, 1, x, y, z),
        placeAxis(at, 2, x, y, z),
        () => 'a placed part',
      );
    }
    const mirrored = determinant(at) < 0;
    for (let i = 0; i < triangles.length; i += 3) {
      const [a, b, c] = [first + triangles[i]!, first + triangles[i + 1]!, first + triangles[i + 2]!];
      if (mirrored) mesh.triangle(a, c, b);
      else mesh.triangle(a, b, c);
    }
  }
  return weldIndexed(mesh.positions.done(), mesh.triangles.done());
}
