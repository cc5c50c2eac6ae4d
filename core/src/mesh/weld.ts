/**
 * Finds vertices that lie at bitwise the same place (−0 counts as 0) while they come in, in one pass: an open-addressing
 * table of vertex numbers over the growing list of places.
 */
export class Welder {
  positions: Float64Array;
  count = 0;
  private table: Int32Array;
  private mask: number;
  private readonly key = new Float64Array(3);
  private readonly bits = new Int32Array(this.key.buffer);

  /** @param expected about how many different vertices there will be */
  constructor(expected: number) {
    this.positions = new Float64Array(3 * Math.max(16, Math.ceil(expected)));
    let size = 64;
    while (size < 2 * expected) size *= 2;
    this.table = new Int32Array(size).fill(-1);
    this.mask = size - 1;
  }

  /** The number of the vertex at a place, a new one where there was none. */
  add(x: number, y: number, z: number): number {
    let slot = this.slotOf(x, y, z);
    const { positions, table, mask } = this;
    for (let found = table[slot]!; found >= 0; found = table[slot]!) {
      const at = 3 * found;
      if (positions[at] === x && positions[at + 1] === y && positions[at + 2] === z) return found;
      slot = (slot + 1) & mask;
    }
    const index = this.count++;
    if (3 * index >= positions.length) this.widen();
    // Adding 0 makes 0 of −0.
    this.positions[3 * index] = x + 0;
    this.positions[3 * index + 1] = y + 0;
    this.positions[3 * index + 2] = z + 0;
    table[slot] = index;
    if (2 * this.count > this.mask) this.rehash();
    return index;
  }

  private slotOf(x: number, y: number, z: number): number {
    const { key, bits } = this;
    key[0] = x + 0;
    key[1] = y + 0;
    key[2] = z + 0;
    let hash = Math.imul(bits[0]! ^ Math.imul(bits[1]!, 0x27d4eb2f), 0x85ebca6b);
    hash = Math.imul(hash ^ (hash >>> 15) ^ bits[2]! ^ Math.imul(bits[3]!, 0x165667b1), 0xc2b2ae35);
    hash = Math.imul(hash ^ (hash >>> 13) ^ bits[4]! ^ Math.imul(bits[5]!, 0x9e3779b1), 0x27d4eb2f);
    return (hash ^ (hash >>> 16)) & this.mask;
  }

  private widen(): void {
    const wider = new Float64Array(Math.ceil(this.positions.length / 3) * 6);
    wider.set(this.positions);
    this.positions = wider;
  }

  private rehash(): void {
    this.table = new Int32Array(2 * this.table.length).fill(-1);
    this.mask = this.table.length - 1;
    const { positions, table, mask } = this;
    for (let i = 0; i < this.count; i++) {
      let slot = this.slotOf(positions[3 * i]!, positions[3 * i + 1]!, positions[3 * i + 2]!);
      while (table[slot]! >= 0) slot = (slot + 1) & mask;
      table[slot] = i;
    }
  }
}

/** Vertices without doubles and without those that no triangle uses; the triangles' numbers follow. */
export interface Welded {
  readonly positions: Float64Array;
  readonly triangles: Uint32Array;
}

/** Welds the vertices of an indexed mesh where they are bitwise equal; triangles are renumbered in place. */
export function weldIndexed(positions: Float64Array, triangles: Uint32Array): Welded {
  const welder = new Welder(positions.length / 3);
  const renumber = new Int32Array(positions.length / 3).fill(-1);
  for (let i = 0; i < triangles.length; i++) {
    const old = triangles[i]!;
    if (renumber[old]! < 0)
      renumber[old] = welder.add(positions[3 * old]!, positions[3 * old + 1]!, positions[3 * old + 2]!);
    triangles[i] = renumber[old]!;
  }
  return { positions: welder.positions.slice(0, 3 * welder.count), triangles };
}
