import type { Box } from './box.ts';

/** The solid that a model bounds, repaired: what everything else is worked out from. */
export interface Body {
  /** Vertices in mm about `originMm`; the last ones are the middles of closed holes. */
  readonly positions: Float64Array;
  /** Triangles that face out of the metal; those from `capsFrom` on close holes and are no surface. */
  readonly triangles: Uint32Array;
  readonly capsFrom: number;
  readonly originMm: readonly [number, number, number];
  readonly up: 'y' | 'z';
  /** None where the model bounds nothing. */
  readonly volumeMm3?: number;
  /** What holes leave open, and how far single precision carries; 0 for an exact polyhedron. */
  readonly volumePlusMinusMm3: number;
  /** The surface, without what closes holes. */
  readonly areaMm2: number;
  readonly centroidMm: readonly [number, number, number];
  readonly isOpen: boolean;
}

/** What is said about a model's triangles and its body. */
export interface Findings {
  readonly triangles: number;
  readonly vertices: number;
  readonly openEdges: number;
  readonly nonManifoldEdges: number;
  readonly shells: number;
  readonly cavities: number;
  /** Shells that faced inward and were turned over. */
  readonly insideOutShells: number;
  readonly watertight: boolean;
  readonly boxMm: Box;
  /** Within how many mm nearly equal vertices were taken for one; 0 where only equal ones were. */
  readonly weldToleranceMm: number;
  readonly warnings: readonly string[];
}

/** A closed shell of the body, for the kernel that unites shells which overlap. */
export interface ShellMesh {
  readonly triangles: Uint32Array;
  readonly part: 'body' | 'cavity';
  /** The body that a cavity lies in, by its place in the list. */
  readonly holder?: number;
}

export interface Examined {
  readonly findings: Findings;
  readonly body: Body;
  /** The shells one by one where some of them overlap; volume and surface count the overlap twice until they are united. */
  readonly overlapping?: readonly ShellMesh[];
}
