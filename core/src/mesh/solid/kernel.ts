import type { ManifoldToplevel } from 'manifold-3d/manifold.js';
import type { ShellMesh } from '../body/body.ts';
import { matchEdges } from '../body/edges.ts';
import { gatherShells } from '../body/shells.ts';
import type { Box } from '../body/box.ts';
import { MeshFault } from '../fault.ts';

/** A closed mesh in mm. */
export interface Closed {
  readonly positions: Float64Array;
  readonly triangles: Uint32Array;
}

/** A plane: a point p lies on it where normal·p = offset. The normal's length does not matter for its direction. */
export interface Plane {
  readonly normal: readonly [number, number, number];
  readonly offsetMm: number;
}

/** What the geometry kernel is asked for. It works on single precision about the model's middle. */
export interface Kernel {
  /** One closed mesh of all bodies, without their cavities. @throws MeshFault where a shell is not closed edge by edge */
  unite(positions: Float64Array, shells: readonly ShellMesh[]): Closed;
  /** The pieces that planes cut a closed mesh into. @throws MeshFault where it is not closed edge by edge */
  split(mesh: Closed, planes: readonly Plane[]): Closed[];
  /**
   * The surface of a solid that is told by how deep in it each place lies, mm; below zero outside.
   * @param box where to look for it; @param edgeMm about how long the triangles' sides are
   */
  surface(depthAt: (place: readonly [number, number, number]) => number, box: Box, edgeMm: number): Closed;
}

type Solid = ReturnType<ManifoldToplevel['Manifold']['ofMesh']>;

let loading: Promise<Kernel> | undefined;

/**
 * Loads the kernel, once. @param wasmUrl where its program lies, for a browser; elsewhere it lies beside the package
 */
export function loadKernel(wasmUrl?: string): Promise<Kernel> {
  return (loading ??= load(wasmUrl).catch((failure: unknown) => {
    // What could not be fetched is fetched again when it is asked for again.
    loading = undefined;
    throw failure;
  }));
}

async function load(wasmUrl: string | undefined): Promise<Kernel> {
  const { default: create } = await import('manifold-3d');
  const top = await create(wasmUrl === undefined ? undefined : { locateFile: () => wasmUrl });
  top.setup();
  return new ManifoldKernel(top);
}

class ManifoldKernel implements Kernel {
  constructor(private readonly top: ManifoldToplevel) {}

  unite(positions: Float64Array, shells: readonly ShellMesh[]): Closed {
    return this.tidy((keep) => {
      const solids = shells.map(({ triangles }) => keep(this.solidOf({ positions, triangles })));
      const bodies = shells.flatMap(({ part }, i) => {
        if (part !== 'body') return [];
        const holes = solids.filter((_, other) => shells[other]!.part === 'cavity' && shells[other]!.holder === i);
        return [holes.reduce((solid, hole) => keep(solid.subtract(hole)), solids[i]!)];
      });
      return meshOf(keep(this.top.Manifold.union(bodies)));
    });
  }

  split(mesh: Closed, planes: readonly Plane[]): Closed[] {
    return this.tidy((keep) => {
      let pieces = [keep(this.solidOf(mesh))];
      for (const { normal, offsetMm } of planes) {
        const length = Math.hypot(...normal);
        if (!(length > 0) || !Number.isFinite(length) || !Number.isFinite(offsetMm))
          throw new MeshFault('a plane to cut by needs a direction and a place');
        const unit = normal.map((each) => each / length) as [number, number, number];
        pieces = pieces.flatMap((piece) =>
          piece
            .splitByPlane(unit, offsetMm / length)
            .map(keep)
            .filter((part) => !part.isEmpty()),
        );
      }
      return pieces.map(meshOf);
    });
  }

  surface(depthAt: (place: readonly [number, number, number]) => number, box: Box, edgeMm: number): Closed {
    return this.tidy((keep) => meshOf(keep(this.top.Manifold.levelSet(depthAt, box as never, edgeMm))));
  }

  /** Each shell gets vertices of its own, so that bodies that touch along an edge are no fault. */
  private solidOf({ positions, triangles }: Closed): Solid {
    const edges = matchEdges(triangles, positions.length / 3);
    const { of } = gatherShells(triangles, edges);
    const numbers = new Map<string, number>();
    const places: number[] = [];
    const corners: number[] = [];
    for (let t = 0; t < of.length; t++) {
      if (of[t]! < 0) continue;
      for (let k = 0; k < 3; k++) {
        const vertex = triangles[3 * t + k]!;
        const key = edges.nonManifold > 0 ? `${of[t]} ${vertex}` : `${vertex}`;
        let number = numbers.get(key);
        if (number === undefined) {
          number = places.length / 3;
          numbers.set(key, number);
          places.push(positions[3 * vertex]!, positions[3 * vertex + 1]!, positions[3 * vertex + 2]!);
        }
        corners.push(number);
      }
    }
    const mesh = new this.top.Mesh({
      numProp: 3,
      vertProperties: Float32Array.from(places),
      triVerts: Uint32Array.from(corners),
    });
    try {
      return this.top.Manifold.ofMesh(mesh);
    } catch {
      throw new MeshFault('its surface is not closed edge by edge, so it cannot be cut or united');
    }
  }

  /** Gives the kernel's memory back, which no garbage collector sees. */
  private tidy<T>(work: (keep: (solid: Solid) => Solid) => T): T {
    const kept = new Set<Solid>();
    try {
      return work((solid) => {
        kept.add(solid);
        return solid;
      });
    } finally {
      for (const solid of kept) solid.delete();
    }
  }
}

function meshOf(solid: Solid): Closed {
  const { vertProperties, numProp, triVerts } = solid.getMesh();
  const positions = new Float64Array((vertProperties.length / numProp) * 3);
  for (let v = 0; v < positions.length / 3; v++)
    for (let k = 0; k < 3; k++) positions[3 * v + k] = vertProperties[v * numProp + k]!;
  return { positions, triangles: Uint32Array.from(triVerts) };
}
