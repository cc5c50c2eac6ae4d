import earcut from 'earcut';
import { MeshFault } from '../fault.ts';
import { LIMITS } from '../limits.ts';

/** Numbers that come one after another, in a typed array that grows. */
export class Growing<A extends Float64Array | Uint32Array> {
  length = 0;
  constructor(
    public array: A,
    private readonly most: number,
    private readonly full: string,
  ) {}

  /** Makes room for so many more. @throws MeshFault where there would be too many */
  room(more: number): void {
    const need = this.length + more;
    if (need <= this.array.length) return;
    if (need > this.most) throw new MeshFault(this.full);
    const Kind = this.array.constructor as new (length: number) => A;
    const wider = new Kind(Math.min(this.most, Math.max(need, Math.ceil(this.array.length * 1.6))));
    wider.set(this.array.subarray(0, this.length));
    this.array = wider;
  }

  /** What was collected, without the spare room. */
  done(): A {
    return (this.array.length === this.length ? this.array : this.array.slice(0, this.length)) as A;
  }
}

export const TOO_MANY = `more than ${LIMITS.triangles / 1e6} million triangles: reduce the model first`;

/** Vertices and triangles of an indexed file while it is read; every number is looked at once. */
export class Collector {
  readonly positions: Growing<Float64Array>;
  readonly triangles: Growing<Uint32Array>;
  /** Polygons that were cut into triangles, and those of no area that were left out. */
  polygons = 0;
  lines = 0;

  constructor(vertices = 1024, triangles = 2048) {
    this.positions = new Growing(new Float64Array(3 * vertices), 9 * LIMITS.triangles, TOO_MANY);
    this.triangles = new Growing(new Uint32Array(3 * triangles), 3 * LIMITS.triangles, TOO_MANY);
  }

  get vertexCount(): number {
    return this.positions.length / 3;
  }

  vertex(x: number, y: number, z: number, where: () => string): void {
    checkCoordinates(x, y, z, where);
    const { positions } = this;
    positions.room(3);
    const { array, length } = positions;
    array[length] = x;
    array[length + 1] = y;
    array[length + 2] = z;
    positions.length = length + 3;
  }

  triangle(a: number, b: number, c: number): void {
    const { triangles } = this;
    triangles.room(3);
    const { array, length } = triangles;
    array[length] = a;
    array[length + 1] = b;
    array[length + 2] = c;
    triangles.length = length + 3;
  }

  /** Adds a polygon as triangles: a fan where it is convex, otherwise by ear clipping in its own plane. */
  polygon(corners: readonly number[]): void {
    const n = corners.length;
    if (n < 3) {
      this.lines++;
      return;
    }
    if (n === 3) {
      this.triangle(corners[0]!, corners[1]!, corners[2]!);
      return;
    }
    this.polygons++;
    const flat = this.flatten(corners);
    const cut = n === 4 ? quad(flat) : convex(flat) ? undefined : earcut(flat);
    if (cut && cut.length === 3 * (n - 2)) {
      for (let i = 0; i < cut.length; i += 3)
        this.triangle(corners[cut[i]!]!, corners[cut[i + 1]!]!, corners[cut[i + 2]!]!);
    } else for (let i = 1; i < n - 1; i++) this.triangle(corners[0]!, corners[i]!, corners[i + 1]!);
  }

  /** The polygon's corners in its own plane (the two axes its normal leans away from), turned counter-clockwise. */
  private flatten(corners: readonly number[]): number[] {
    const p = this.positions.array;
    const at = (i: number, axis: number) => p[3 * corners[i % corners.length]! + axis]!;
    const normal = [0, 0, 0];
    for (let i = 0; i < corners.length; i++)
      for (let axis = 0; axis < 3; axis++) {
        const [u, v] = [(axis + 1) % 3, (axis + 2) % 3];
        normal[axis]! += (at(i, u) - at(0, u)) * (at(i + 1, v) - at(0, v));
        normal[axis]! -= (at(i, v) - at(0, v)) * (at(i + 1, u) - at(0, u));
      }
    const size = normal.map(Math.abs);
    const axis = size.indexOf(Math.max(...size));
    const [u, v] = normal[axis]! >= 0 ? [(axis + 1) % 3, (axis + 2) % 3] : [(axis + 2) % 3, (axis + 1) % 3];
    return corners.flatMap((_, i) => [at(i, u), at(i, v)]);
  }
}

/** Twice the signed area of three corners of a flat polygon. */
function turn(flat: readonly number[], a: number, b: number, c: number): number {
  const n = flat.length / 2;
  const x = (i: number) => flat[2 * (i % n)]!;
  const y = (i: number) => flat[2 * (i % n) + 1]!;
  return (x(b) - x(a)) * (y(c) - y(a)) - (y(b) - y(a)) * (x(c) - x(a));
}

/** A quad is cut along the diagonal that stays inside it. */
const quad = (flat: readonly number[]): number[] =>
  turn(flat, 0, 1, 2) >= 0 && turn(flat, 0, 2, 3) >= 0 ? [0, 1, 2, 0, 2, 3] : [1, 2, 3, 1, 3, 0];

function convex(flat: readonly number[]): boolean {
  const n = flat.length / 2;
  let turned = 0;
  for (let i = 0; i < n; i++) {
    if (turn(flat, i, i + 1, i + 2) < 0) return false;
    // A star turns left at every corner, but more than once round.
    const angle = (k: number) =>
      Math.atan2(flat[2 * ((k + 1) % n) + 1]! - flat[2 * (k % n) + 1]!, flat[2 * ((k + 1) % n)]! - flat[2 * (k % n)]!);
    const step = angle(i + 1) - angle(i);
    turned += step < -Math.PI ? step + 2 * Math.PI : step > Math.PI ? step - 2 * Math.PI : step;
  }
  return turned < 3 * Math.PI;
}

/** @throws MeshFault unless all three are numbers within bounds; `where` names the place in the file */
export function checkCoordinates(x: number, y: number, z: number, where: () => string): void {
  // One comparison that NaN fails too.
  if (Math.abs(x) <= LIMITS.coordinate && Math.abs(y) <= LIMITS.coordinate && Math.abs(z) <= LIMITS.coordinate) return;
  const bad = [x, y, z].find((value) => !(Math.abs(value) <= LIMITS.coordinate))!;
  throw new MeshFault(
    Number.isFinite(bad)
      ? `${where()} has the coordinate ${bad}, beyond what can be a sculpture`
      : `${where()} has a coordinate that is not a number`,
  );
}
