/** The vertices next to each vertex, one list after another: `list` from `starts[v]` to before `starts[v + 1]`. */
export interface Neighbours {
  readonly starts: Int32Array;
  readonly list: Int32Array;
}

/** Neighbours along the edges of triangles; one that shares two triangles with a vertex may stand twice. */
export function neighboursOf(triangles: ArrayLike<number>, vertexCount: number): Neighbours {
  const starts = new Int32Array(vertexCount + 2);
  for (let h = 0; h < triangles.length; h++) starts[triangles[h]! + 2]!++;
  for (let v = 2; v < starts.length; v++) starts[v]! += starts[v - 1]!;
  // In a closed surface the next corner of every triangle round a vertex gives each neighbour once.
  const list = new Int32Array(2 * triangles.length);
  const doubled = starts.map((each) => 2 * each);
  for (let h = 0; h < triangles.length; h += 3)
    for (let k = 0; k < 3; k++) {
      const v = triangles[h + k]!;
      list[doubled[v + 1]!++] = triangles[h + ((k + 1) % 3)]!;
      list[doubled[v + 1]!++] = triangles[h + ((k + 2) % 3)]!;
    }
  return { starts: doubled, list };
}
