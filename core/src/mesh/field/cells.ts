/** Cubes of one size that wait to be cut: middle, depth and nearest triangle there, and the share deeper than each wall. */
export class Cells {
  count = 0;
  private room: number;
  at: Float64Array;
  depth: Float64Array;
  /** The direction in which the depth grows. */
  way: Float64Array;
  hint: Int32Array;
  own: Float64Array;

  constructor(
    private readonly walls: number,
    room = 64,
  ) {
    this.room = room;
    this.at = new Float64Array(3 * room);
    this.depth = new Float64Array(room);
    this.way = new Float64Array(3 * room);
    this.hint = new Int32Array(room);
    this.own = new Float64Array(walls * room);
  }

  /** Adds a cube; its direction and its shares are copied from `way` and `own`, beginning at the given places. */
  add(
    [x, y, z]: readonly [number, number, number],
    depth: number,
    way: Float64Array,
    wayAt: number,
    hint: number,
    own: Float64Array,
    ownAt: number,
  ): void {
    if (this.count === this.room) this.widen();
    const i = this.count++;
    this.at[3 * i] = x;
    this.at[3 * i + 1] = y;
    this.at[3 * i + 2] = z;
    this.depth[i] = depth;
    for (let k = 0; k < 3; k++) this.way[3 * i + k] = way[wayAt + k]!;
    this.hint[i] = hint;
    for (let w = 0; w < this.walls; w++) this.own[this.walls * i + w] = own[ownAt + w]!;
  }

  private widen(): void {
    this.room *= 2;
    const wider = <A extends Float64Array | Int32Array>(old: A, length: number): A => {
      const fresh = new (old.constructor as new (length: number) => A)(length);
      fresh.set(old);
      return fresh;
    };
    this.at = wider(this.at, 3 * this.room);
    this.depth = wider(this.depth, this.room);
    this.way = wider(this.way, 3 * this.room);
    this.hint = wider(this.hint, this.room);
    this.own = wider(this.own, this.walls * this.room);
  }
}
