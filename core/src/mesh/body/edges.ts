/** How the edges of a mesh meet. A half-edge `3t + k` runs from corner k of triangle t to the next corner. */
export interface Edges {
  /** Edges of one triangle, and of three or more. */
  readonly open: number;
  readonly nonManifold: number;
  /** The half-edge on the other side; OPEN, CROWDED (three or more meet) or COLLAPSED (two corners are one). */
  readonly other: Int32Array;
  /** The half-edges of the crowded edges, those of one edge after one another, and where each edge begins. */
  readonly crowds: Int32Array;
  readonly crowdStarts: Int32Array;
}

export const OPEN = -1;
export const CROWDED = -2;
export const COLLAPSED = -3;

/** Above this many half-edges at a vertex they are sorted; below, comparing each with each is quicker. */
const FEW = 24;

/** The half-edge after this one in its triangle. */
export const nextHalf = (half: number): number => (half % 3 === 2 ? half - 2 : half + 1);

/**
 * Matches the half-edges of a mesh: gathered by the lower of their two vertices, then by the other. Triangles with two
 * corners in one have no edges.
 */
export function matchEdges(triangles: Uint32Array, vertexCount: number): Edges {
  const halves = triangles.length;
  const starts = new Int32Array(vertexCount + 2);
  const other = new Int32Array(halves).fill(COLLAPSED);
  for (let h = 0; h < halves; h += 3) {
    const [a, b, c] = [triangles[h]!, triangles[h + 1]!, triangles[h + 2]!];
    if (a === b || b === c || c === a) continue;
    other[h] = other[h + 1] = other[h + 2] = OPEN;
    starts[(a < b ? a : b) + 2]!++;
    starts[(b < c ? b : c) + 2]!++;
    starts[(c < a ? c : a) + 2]!++;
  }
  for (let v = 2; v < starts.length; v++) starts[v]! += starts[v - 1]!;
  const used = starts[starts.length - 1]!;
  const half = new Int32Array(used);
  const high = new Int32Array(used);
  for (let h = 0; h < halves; h += 3) {
    if (other[h] === COLLAPSED) continue;
    for (let k = 0; k < 3; k++) {
      const from = triangles[h + k]!;
      const to = triangles[k === 2 ? h : h + k + 1]!;
      const at = starts[(from < to ? from : to) + 1]!++;
      half[at] = h + k;
      high[at] = from < to ? to : from;
    }
  }
  return link(starts, half, high, other, vertexCount);
}

function link(starts: Int32Array, half: Int32Array, high: Int32Array, other: Int32Array, vertexCount: number): Edges {
  const crowds: number[] = [];
  const crowdStarts: number[] = [0];
  let open = 0;
  for (let v = 0; v < vertexCount; v++) {
    const [from, to] = [starts[v]!, starts[v + 1]!];
    if (to - from > FEW) sortByHigh(half, high, from, to);
    for (let i = from; i < to; i++) {
      const far = high[i]!;
      if (far < 0) continue;
      let found = -1;
      let more = 0;
      for (let j = i + 1; j < to; j++) {
        if (high[j] !== far) {
          if (to - from > FEW) break;
          continue;
        }
        if (found < 0) found = j;
        else more++;
      }
      if (found < 0) open++;
      else if (more === 0) {
        other[half[i]!] = half[found]!;
        other[half[found]!] = half[i]!;
        high[found] = -1;
      } else
        for (let j = i; j < to; j++) {
          if (high[j] !== far) continue;
          other[half[j]!] = CROWDED;
          crowds.push(half[j]!);
          high[j] = -1;
        }
      if (more > 0) crowdStarts.push(crowds.length);
    }
  }
  return {
    open,
    nonManifold: crowdStarts.length - 1,
    other,
    crowds: Int32Array.from(crowds),
    crowdStarts: Int32Array.from(crowdStarts),
  };
}

function sortByHigh(half: Int32Array, high: Int32Array, from: number, to: number): void {
  const keys = new Float64Array(to - from);
  // 2^26 half-edges and 2^27 vertices fit in the 53 bits of a number.
  for (let i = from; i < to; i++) keys[i - from] = high[i]! * 0x4000000 + half[i]!;
  keys.sort();
  for (let i = from; i < to; i++) {
    high[i] = Math.floor(keys[i - from]! / 0x4000000);
    half[i] = keys[i - from]! % 0x4000000;
  }
}
