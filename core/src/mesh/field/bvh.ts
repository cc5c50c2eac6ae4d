/** How many triangles a leaf holds where nobody says, and into how many slices a node is cut to find the best split. */
const LEAF = 4;
const SLICES = 12;
/** Up to so many triangles are parted at the middle of their box: looking for a better place costs more than it gives. */
const FEW = 16;
/** From this depth on nodes are halved by count, so that no arrangement of triangles makes the tree deeper than its walkers expect. */
const DEEP = 48;

/**
 * A tree of boxes over triangles, flat in typed arrays. A node's children are `first` and `first + 1`; a leaf holds
 * `size` triangles from `first` on. The corners of the triangles lie in the leaves' order, nine numbers each.
 * Built top down with the surface-area measure (Goldsmith and Salmon).
 */
export interface Tree {
  /** min x, y, z, max x, y, z of each node. */
  readonly boxes: Float64Array;
  readonly first: Int32Array;
  /** 0 for an inner node. */
  readonly size: Int32Array;
  readonly nodes: number;
  readonly corners: Float64Array;
  /** The number that each triangle had, by its place in the leaves. */
  readonly ids: Int32Array;
}

/**
 * Builds the tree of all triangles.
 * @param positions x, y, z of each vertex; @param triangles three vertices each
 * @param leaf how many triangles a leaf holds at most: more for a tree that is soon made and seldom asked
 */
export function buildTree(positions: Float64Array, triangles: ArrayLike<number>, leaf = LEAF): Tree {
  const count = triangles.length / 3;
  const bounds = new Float64Array(6 * count);
  const centres = new Float64Array(3 * count);
  for (let t = 0; t < count; t++)
    for (let axis = 0; axis < 3; axis++) {
      const a = positions[3 * triangles[3 * t]! + axis]!;
      const b = positions[3 * triangles[3 * t + 1]! + axis]!;
      const c = positions[3 * triangles[3 * t + 2]! + axis]!;
      const low = a < b ? (a < c ? a : c) : b < c ? b : c;
      const high = a > b ? (a > c ? a : c) : b > c ? b : c;
      bounds[6 * t + axis] = low;
      bounds[6 * t + 3 + axis] = high;
      centres[3 * t + axis] = (low + high) / 2;
    }
  const ids = Int32Array.from({ length: count }, (_, i) => i);
  const most = Math.max(1, 2 * count);
  const boxes = new Float64Array(6 * most);
  const first = new Int32Array(most);
  const size = new Int32Array(most);
  const split = new Splitter(bounds, centres, ids);
  let nodes = 1;
  const open: number[] = [0, 0, count, 0];
  while (open.length > 0) {
    const depth = open.pop()!;
    const to = open.pop()!;
    const from = open.pop()!;
    const node = open.pop()!;
    split.boxOf(from, to, boxes, 6 * node);
    const middle = to - from <= leaf ? -1 : split.at(from, to, depth >= DEEP);
    if (middle < 0) {
      first[node] = from;
      size[node] = to - from;
      continue;
    }
    first[node] = nodes;
    open.push(nodes, from, middle, depth + 1, nodes + 1, middle, to, depth + 1);
    nodes += 2;
  }
  const corners = new Float64Array(9 * count);
  for (let i = 0; i < count; i++)
    for (let k = 0; k < 3; k++) {
      const vertex = triangles[3 * ids[i]! + k]!;
      for (let axis = 0; axis < 3; axis++) corners[9 * i + 3 * k + axis] = positions[3 * vertex + axis]!;
    }
  return {
    boxes: boxes.slice(0, 6 * nodes),
    first: first.slice(0, nodes),
    size: size.slice(0, nodes),
    nodes,
    corners,
    ids,
  };
}

class Splitter {
  private readonly counts = new Int32Array(SLICES);
  private readonly slices = new Float64Array(6 * SLICES);
  private readonly right = new Float64Array(SLICES);

  constructor(
    private readonly bounds: Float64Array,
    private readonly centres: Float64Array,
    private readonly ids: Int32Array,
  ) {}

  boxOf(from: number, to: number, into: Float64Array, at: number): void {
    const { bounds, ids } = this;
    for (let axis = 0; axis < 3; axis++) {
      let low = Infinity;
      let high = -Infinity;
      for (let i = from; i < to; i++) {
        const b = 6 * ids[i]! + axis;
        if (bounds[b]! < low) low = bounds[b]!;
        if (bounds[b + 3]! > high) high = bounds[b + 3]!;
      }
      into[at + axis] = low;
      into[at + 3 + axis] = high;
    }
  }

  /** Puts the triangles from `from` to before `to` into two groups. @returns where the second begins; −1 for a leaf */
  at(from: number, to: number, halve: boolean): number {
    const { centres, ids } = this;
    let axis = -1;
    let low = 0;
    let width = 0;
    for (let each = 0; each < 3; each++) {
      let least = Infinity;
      let most = -Infinity;
      for (let i = from; i < to; i++) {
        const centre = centres[3 * ids[i]! + each]!;
        if (centre < least) least = centre;
        if (centre > most) most = centre;
      }
      if (most - least > width) {
        axis = each;
        low = least;
        width = most - least;
      }
    }
    if (halve) return (from + to) >> 1;
    // All centres at one place: any halves do, and a leaf must not hold thousands.
    if (axis < 0) return to - from <= 4 * LEAF ? -1 : (from + to) >> 1;
    const cut = to - from <= FEW ? SLICES / 2 - 1 : this.bestSlice(from, to, axis, low, SLICES / width);
    const found = cut < 0 ? from : this.partition(from, to, axis, low, SLICES / width, cut);
    if (found > from && found < to) return found;
    return (from + to) >> 1;
  }

  private sliceOf(id: number, axis: number, low: number, scale: number): number {
    return Math.min(SLICES - 1, Math.floor((this.centres[3 * id + axis]! - low) * scale));
  }

  private bestSlice(from: number, to: number, axis: number, low: number, scale: number): number {
    const { bounds, ids, counts, slices, right } = this;
    counts.fill(0);
    for (let s = 0; s < SLICES; s++)
      for (let k = 0; k < 3; k++) {
        slices[6 * s + k] = Infinity;
        slices[6 * s + 3 + k] = -Infinity;
      }
    for (let i = from; i < to; i++) {
      const id = ids[i]!;
      const s = this.sliceOf(id, axis, low, scale);
      counts[s]!++;
      for (let k = 0; k < 3; k++) {
        if (bounds[6 * id + k]! < slices[6 * s + k]!) slices[6 * s + k] = bounds[6 * id + k]!;
        if (bounds[6 * id + 3 + k]! > slices[6 * s + 3 + k]!) slices[6 * s + 3 + k] = bounds[6 * id + 3 + k]!;
      }
    }
    const grown = new Float64Array(6);
    const sweep = (s: number, start: boolean) => {
      for (let k = 0; k < 3; k++) {
        grown[k] = start ? slices[6 * s + k]! : Math.min(grown[k]!, slices[6 * s + k]!);
        grown[k + 3] = start ? slices[6 * s + 3 + k]! : Math.max(grown[k + 3]!, slices[6 * s + 3 + k]!);
      }
      const [x, y, z] = [grown[3]! - grown[0]!, grown[4]! - grown[1]!, grown[5]! - grown[2]!];
      return x >= 0 ? x * y + y * z + z * x : 0;
    };
    let held = 0;
    for (let s = SLICES - 1; s > 0; s--) {
      held += counts[s]!;
      right[s] = sweep(s, s === SLICES - 1) * held;
    }
    let best = Infinity;
    let cut = -1;
    held = 0;
    for (let s = 0; s < SLICES - 1; s++) {
      held += counts[s]!;
      const cost = sweep(s, s === 0) * held + right[s + 1]!;
      if (held > 0 && held < to - from && cost < best) {
        best = cost;
        cut = s;
      }
    }
    return cut;
  }

  private partition(from: number, to: number, axis: number, low: number, scale: number, cut: number): number {
    const { ids } = this;
    let left = from;
    for (let i = from; i < to; i++) {
      const id = ids[i]!;
      if (this.sliceOf(id, axis, low, scale) > cut) continue;
      ids[i] = ids[left]!;
      ids[left++] = id;
    }
    return left;
  }
}
