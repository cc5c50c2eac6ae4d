import type { LengthUnit } from '../length.ts';

/** What a reader makes of a file: vertices welded where bitwise equal, triangles as the file has them. */
export interface FileMesh {
  readonly format: 'STL' | 'OBJ' | 'PLY' | '3MF' | 'glTF';
  /** x, y, z of each vertex, in the file's unit and axes. */
  readonly positions: Float64Array;
  /** Three vertex numbers a triangle. */
  readonly triangles: Uint32Array;
  /** The unit the file states, where it does. */
  readonly unit?: LengthUnit;
  /** The axis that points up by the format's own rule. */
  readonly up: 'y' | 'z';
  /** What was odd and was read all the same, in sentences. */
  readonly warnings: readonly string[];
}
