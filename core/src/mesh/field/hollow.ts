import { boxOf, sidesOf } from '../body/box.ts';
import { MeshFault, step } from '../fault.ts';
import type { Watch } from '../fault.ts';
import { Cells } from './cells.ts';
import { shareAbove } from './plane-cube.ts';
import type { SolidField } from './solid-field.ts';

/** The volume of metal within a wall of the surface. */
export interface Hollow {
  readonly wallMm: number;
  readonly volumeMm3: number;
  /** How far the volume may be off, in mm³: the doubts about all cubes together, as if all lay on one side. */
  readonly errorMm3: number;
  /**
   * Where planes divide the body: how much lies deeper than the wall in each part, mm³, by the part's number (`partOf`). What
   * is within the wall of a part is its own volume less this; all parts together are the whole.
   */
  readonly deeperIn?: readonly number[];
}

/** A plane in mm about the body's origin, its normal of length 1. */
export interface Divide {
  readonly normal: readonly [number, number, number];
  readonly offset: number;
}

/** The number of the part that lies on these sides of the planes: a bit for each, set above it. */
export const partOf = (isAbove: readonly boolean[]): number =>
  isAbove.reduce((bits, above, i) => bits + (above ? 2 ** i : 0), 0);

/** What the cubes that are believed at one size may always be in doubt together, as a share of the hollow volume, in a first walk. */
const AIM = 0.0006;
/** What cutting leaves of a doubt at most, as found on bodies of all kinds. */
const CUT_LEAVES = 0.35;
/** The error, as a share, that is good enough; the promise is 0.5 %. Where a walk ends with more, it is done again, finer. */
const ENOUGH = 0.005;
const FINER = 3;
/** Cubes are at most so many walls wide before their own estimate is believed. */
const WIDEST = 2;
/** And at most this share of the longest side: the rest deeper than a thick wall can be small. */
const WIDEST_SHARE = 1 / 16;
/** Questions after which all cubes are believed as they are; the error then says what that costs. */
const MOST_ASKED = { once: 2_500_000, eachWall: 500_000 };
/** How much of what a neighbour sees is taken off a cube's share; the rest stays in doubt. Found on solids with known answers. */
const BENT = 0.7;
/** The share of the hollow volume that cubes which line up with the body can hide from all of this. Found likewise. */
const UNSEEN = 1e-3;
const SQRT3 = Math.sqrt(3);

/**
 * The volume of the solid that lies within a wall of its surface; what is thinner than two walls is solid by itself.
 *
 * What lies deeper than the wall is measured with cubes, cut into eight wherever its border runs through them: a cube's
 * share is that of the plane that the depth and its direction at the cube's middle give. At each size the cubes in which
 * cutting found least news are believed, as long as their doubts stay together below the aim; edges and ridges of the
 * border, where a plane is a poor guess, are cut on. All walls come from one walk over one field of distances.
 * @param wallsMm the walls, each above zero
 * @param divides planes by which the body is told apart into parts; the work is the same
 * @throws MeshFault where the model encloses nothing or a wall is not above zero; Cancelled
 */
export function hollowVolumes(
  field: SolidField,
  wallsMm: readonly number[],
  watch?: Watch,
  divides: readonly Divide[] = [],
): Hollow[] {
  const { volumeMm3, volumePlusMinusMm3 } = field.body;
  if (volumeMm3 === undefined) throw new MeshFault('the model encloses nothing, so it has no wall');
  const wrong = wallsMm.find((wall) => !(Number.isFinite(wall) && wall > 0));
  if (wrong !== undefined) throw new MeshFault(`a wall must be above zero, not ${wrong}`);
  if (wallsMm.length === 0) return [];
  const begun = field.asked;
  for (let aim = AIM; ; aim /= FINER) {
    const walk = new Walk(field, wallsMm, volumeMm3, aim, watch, divides);
    walk.go();
    const found = wallsMm.map((wallMm, w) => ({ wallMm, ...walk.result(w) }));
    const good = found.every(({ errorMm3, volumeMm3: volume }) => errorMm3 <= ENOUGH * volume);
    // A finer walk asks about as much again for each halving of the doubt, so one more must fit in what is left.
    if (good || (field.asked - begun) * FINER > mostAsked(wallsMm))
      return found.map(({ wallMm, volumeMm3: volume, errorMm3 }, w) => ({
        wallMm,
        volumeMm3: volume,
        errorMm3: Math.min(volumeMm3, errorMm3 + volumePlusMinusMm3),
        ...(divides.length > 0 ? { deeperIn: walk.deeperIn(w) } : {}),
      }));
  }
}

const mostAsked = (walls: readonly number[]): number => MOST_ASKED.once + walls.length * MOST_ASKED.eachWall;

class Walk {
  /** For each wall: the volume deeper than it; what was believed too soon; the doubts. */
  readonly rest: Float64Array;
  readonly left: Float64Array;
  readonly doubt: Float64Array;
  /** About how large each hollow volume is: area × wall, at most the solid. */
  private readonly size: readonly number[];
  private widest = Infinity;
  /** For each wall the volume deeper than it in each part. */
  private readonly parts: Float64Array | null;

  constructor(
    private readonly field: SolidField,
    private readonly walls: readonly number[],
    private readonly volume: number,
    private readonly aim: number,
    private readonly watch: Watch | undefined,
    private readonly divides: readonly Divide[],
  ) {
    this.parts = divides.length === 0 ? null : new Float64Array(walls.length * 2 ** divides.length);
    const none = () => new Float64Array(walls.length);
    [this.rest, this.left, this.doubt] = [none(), none(), none()];
    this.size = walls.map((wall) => Math.min(volume, field.body.areaMm2 * wall));
  }

  /** The hollow volume of a wall and how far it may be off. */
  result(w: number): { volumeMm3: number; errorMm3: number } {
    const volumeMm3 = this.volume - Math.min(this.volume, this.rest[w]!);
    const errorMm3 = this.doubt[w]! + this.left[w]!;
    return { volumeMm3, errorMm3: errorMm3 + UNSEEN * volumeMm3 };
  }

  /** The volume deeper than a wall, part by part. */
  deeperIn(w: number): number[] {
    const count = 2 ** this.divides.length;
    return [...this.parts!.subarray(w * count, (w + 1) * count)];
  }

  go(): void {
    const { field, walls } = this;
    const box = boxOf(field.body.positions);
    let half = (Math.max(...sidesOf(box)) / 2) * 1.0001;
    this.widest = 2 * half * WIDEST_SHARE;
    const [x, y, z] = ([0, 1, 2] as const).map((k) => (box.min[k] + box.max[k]) / 2) as [number, number, number];
    let cells = new Cells(walls.length);
    const own = new Float64Array(walls.length);
    field.ask(x, y, z);
    this.estimate(half, own, 0);
    cells.add([x, y, z], field.depth, Float64Array.of(field.gx, field.gy, field.gz), 0, field.triangle, own, 0);
    const limit = field.asked + mostAsked(walls);
    for (; cells.count > 0; half /= 2) cells = this.cutAll(cells, half, limit);
  }

  /** The share of the cube just asked for that lies deeper than each wall, as one plane sees it. */
  private estimate(half: number, into: Float64Array, from: number): void {
    const { depth, gx, gy, gz } = this.field;
    for (let w = 0; w < this.walls.length; w++)
      into[from + w] = shareAbove(gx, gy, gz, (depth - this.walls[w]!) / half);
  }

  /** Cuts all cubes of a size into eight, believes what may be believed, and returns the parts that are to be cut again. */
  private cutAll(cells: Cells, half: number, limit: number): Cells {
    const { field, walls, size } = this;
    const count = walls.length;
    const h = half / 2;
    const depths = new Float64Array(8 * cells.count);
    const hints = new Int32Array(8 * cells.count);
    const ways = new Float64Array(24 * cells.count);
    const parts = new Float64Array(8 * count * cells.count);
    /** How much each cube is in doubt for each wall, as a share of the hollow volume. */
    const doubts = new Float64Array(count * cells.count);
    for (let i = 0; i < cells.count; i++) {
      if ((i & 1023) === 0) step(this.watch, Math.min(0.99, field.asked / limit), 'measuring the wall');
      const depth = cells.depth[i]!;
      // Where the surface does not come into the cube, all of it is on the side of its middle.
      const side = Math.abs(depth) > half * SQRT3 ? (depth > 0 ? 1 : -1) : 0;
      for (let k = 0; k < 8; k++) {
        const [dx, dy, dz] = [k & 1 ? h : -h, k & 2 ? h : -h, k & 4 ? h : -h];
        field.ask(cells.at[3 * i]! + dx, cells.at[3 * i + 1]! + dy, cells.at[3 * i + 2]! + dz, side, cells.hint[i]!);
        depths[8 * i + k] = field.depth;
        hints[8 * i + k] = field.triangle;
        ways[24 * i + 3 * k] = field.gx;
        ways[24 * i + 3 * k + 1] = field.gy;
        ways[24 * i + 3 * k + 2] = field.gz;
        this.estimate(h, parts, (8 * i + k) * count);
      }
      for (let w = 0; w < count; w++)
        doubts[count * i + w] =
          (this.bend(depths, ways, parts, i, w, h) + this.doubtOf(cells, parts, i, w, half)) / size[w]!;
    }
    const { isBelieved, tooSoon } = this.believe(
      cells,
      doubts,
      this.hollowSoFar(parts, cells.count, h),
      half,
      (limit - field.asked) / 16,
    );
    const next = new Cells(count, cells.count);
    for (let i = 0; i < cells.count; i++) {
      const believed = isBelieved[i] === 1;
      if (believed)
        for (let w = 0; w < count; w++) {
          const moved = this.changeOf(cells, parts, i, w, half);
          this.doubt[w]! += doubts[count * i + w]! * size[w]!;
          if (tooSoon) this.left[w]! += Math.abs(moved);
        }
      for (let k = 0; k < 8; k++) {
        const at = 8 * i + k;
        const [dx, dy, dz] = [k & 1 ? h : -h, k & 2 ? h : -h, k & 4 ? h : -h];
        const middle = [cells.at[3 * i]! + dx, cells.at[3 * i + 1]! + dy, cells.at[3 * i + 2]! + dz] as const;
        if (this.settle(middle, depths[at]!, h, parts, at * count, believed)) continue;
        next.add(middle, depths[at]!, ways, 3 * at, hints[at]!, parts, at * count);
      }
    }
    return next;
  }

  /**
   * Which cubes are believed: for each wall those in least doubt, as long as their doubts stay together below the aim,
   * and none that is too wide for a wall whose border may run through it. Where more than `most` would be cut again the
   * ones in least doubt are believed too soon.
   */
  private believe(cells: Cells, doubts: Float64Array, hollow: readonly number[], half: number, most: number) {
    const { walls } = this;
    const count = walls.length;
    const isBelieved = new Uint8Array(cells.count).fill(1);
    const worst = new Float64Array(cells.count);
    for (let w = 0; w < count; w++) {
      const own: number[] = [];
      for (let i = 0; i < cells.count; i++) {
        const doubt = doubts[count * i + w]!;
        worst[i] = Math.max(worst[i]!, doubt);
        const isNear = Math.abs(cells.depth[i]! - walls[w]!) < half * SQRT3;
        if (isNear && 2 * half > Math.min(WIDEST * walls[w]!, this.widest)) isBelieved[i] = 0;
        else if (doubt > 0) own.push(doubt);
      }
      const enough = threshold(Float64Array.from(own), this.mayBelieve(own, w, hollow[w]!));
      for (let i = 0; i < cells.count; i++) if (doubts[count * i + w]! > enough) isBelieved[i] = 0;
    }
    const open = [...isBelieved.keys()].filter((i) => !isBelieved[i]);
    const tooSoon = open.length > most;
    if (tooSoon) {
      open.sort((a, b) => worst[a]! - worst[b]!);
      for (const i of open.slice(0, open.length - Math.max(0, Math.floor(most)))) isBelieved[i] = 1;
    }
    return { isBelieved, tooSoon };
  }

  /**
   * How much doubt may be believed at this size, as a share: as much as leaves the whole good enough once the rest is cut
   * again, and always a little, so that the small ones are not all carried on.
   */
  private mayBelieve(doubts: readonly number[], w: number, hollow: number): number {
    const all = doubts.reduce((sum, each) => sum + each, 0);
    const allowed = ((ENOUGH * this.aim) / AIM - UNSEEN) * hollow - this.doubt[w]! - this.left[w]!;
    return Math.max(this.aim, (allowed / this.size[w]! - CUT_LEAVES * all) / (1 - CUT_LEAVES));
  }

  /** The hollow volume of each wall if the parts of all cubes were believed as they are. */
  private hollowSoFar(parts: Float64Array, cubes: number, h: number): number[] {
    const count = this.walls.length;
    return this.walls.map((_, w) => {
      let deeper = 0;
      for (let at = w; at < 8 * count * cubes; at += count) deeper += parts[at]!;
      return this.volume - this.rest[w]! - deeper * 8 * h ** 3;
    });
  }

  /** By how much cutting a cube changed its volume deeper than a wall, in mm³. */
  private changeOf(cells: Cells, parts: Float64Array, i: number, w: number, half: number): number {
    const count = this.walls.length;
    let sum = 0;
    for (let k = 0; k < 8; k++) sum += parts[(8 * i + k) * count + w]!;
    return (sum / 8 - cells.own[i * count + w]!) * 8 * half ** 3;
  }

  /**
   * Takes off the parts of a cube what their neighbours in it see and they do not: the depth is the least of the
   * distances to all places of the surface, so where two neighbours see different sides, both planes hold.
   * @returns how much was taken off, in mm³
   */
  private bend(depths: Float64Array, ways: Float64Array, parts: Float64Array, i: number, w: number, h: number): number {
    const count = this.walls.length;
    const wall = this.walls[w]!;
    let sum = 0;
    for (let k = 0; k < 8; k++) {
      const at = (8 * i + k) * count + w;
      const own = parts[at]!;
      if (own <= 0) continue;
      const mine = 3 * (8 * i + k);
      let least = own;
      for (let axis = 0; axis < 3; axis++) {
        const j = k ^ (1 << axis);
        const his = 3 * (8 * i + j);
        const [gx, gy, gz] = [ways[his]!, ways[his + 1]!, ways[his + 2]!];
        const cosine = gx * ways[mine]! + gy * ways[mine + 1]! + gz * ways[mine + 2]!;
        if (cosine > 0.999) continue;
        const over = depths[8 * i + j]! - wall + (k & (1 << axis) ? 2 : -2) * h * ways[his + axis]!;
        least = Math.min(least, both(own, shareAbove(gx, gy, gz, over / h), cosine));
      }
      parts[at] = own - BENT * (own - least);
      sum += own - least;
    }
    return sum * 8 * h ** 3;
  }

  /**
   * How much a cube's parts differ from what its own plane foretold of them, in mm³, whichever way. Unlike the change of
   * their sum it does not vanish where two mistakes happen to cancel, as they do all along an edge that the cubes line up with.
   */
  private doubtOf(cells: Cells, parts: Float64Array, i: number, w: number, half: number): number {
    const count = this.walls.length;
    const h = half / 2;
    const [gx, gy, gz] = [cells.way[3 * i]!, cells.way[3 * i + 1]!, cells.way[3 * i + 2]!];
    const over = cells.depth[i]! - this.walls[w]!;
    let sum = 0;
    for (let k = 0; k < 8; k++) {
      const foretold = over + gx * (k & 1 ? h : -h) + gy * (k & 2 ? h : -h) + gz * (k & 4 ? h : -h);
      sum += Math.abs(parts[(8 * i + k) * count + w]! - shareAbove(gx, gy, gz, foretold / h));
    }
    return sum * half ** 3;
  }

  /** Adds a cube to what lies deeper than the walls where that is certain or believed. @returns whether it is done with */
  private settle(
    middle: readonly [number, number, number],
    depth: number,
    half: number,
    parts: Float64Array,
    from: number,
    believed: boolean,
  ): boolean {
    const { walls } = this;
    const reach = half * SQRT3;
    for (let w = 0; !believed && w < walls.length; w++) if (Math.abs(depth - walls[w]!) < reach) return false;
    for (let w = 0; w < walls.length; w++) {
      const over = depth - walls[w]!;
      const deeper = (over >= reach ? 1 : over <= -reach ? 0 : parts[from + w]!) * 8 * half ** 3;
      this.rest[w]! += deeper;
      if (this.parts !== null && deeper > 0) this.share(middle, half, deeper, w);
    }
    return true;
  }

  /** Gives a cube's volume to the parts that it lies in, each plane dividing it as it runs. */
  private share([x, y, z]: readonly [number, number, number], half: number, volume: number, w: number): void {
    const { divides } = this;
    const above = divides.map(({ normal: [nx, ny, nz], offset }) =>
      shareAbove(nx, ny, nz, (nx * x + ny * y + nz * z - offset) / half),
    );
    const count = 2 ** divides.length;
    for (let part = 0; part < count; part++) {
      const share = above.reduce((product, each, i) => product * (part & (1 << i) ? each : 1 - each), 1);
      if (share > 0) this.parts![w * count + part]! += share * volume;
    }
  }
}

/**
 * About the share of a cube that lies above two planes, by the cosine of their angle: the lesser of the two where they
 * are parallel, the product where they cross squarely, what is left between them where they face each other.
 */
function both(one: number, other: number, cosine: number): number {
  const product = one * other;
  if (cosine >= 0) return product + (Math.min(one, other) - product) * cosine * cosine;
  return product + (Math.max(0, one + other - 1) - product) * cosine * cosine;
}

/** The doubt up to which cubes are believed, so that the doubts of all of them add up to no more than the aim. */
function threshold(doubts: Float64Array, aim: number): number {
  doubts.sort();
  let sum = 0;
  for (let i = 0; i < doubts.length; i++) {
    sum += doubts[i]!;
    if (sum > aim) return i === 0 ? 0 : doubts[i - 1]!;
  }
  return Infinity;
}
