// Walls, the thickest place and thickness, on solids whose answers are known.
import { exact, fieldOf } from '../../testing/models.ts';
import type { Shape } from '../../testing/shapes.ts';
import { ball, box, cone, lump, moved, reversed, together, torus, turned } from '../../testing/shapes.ts';
import { Cancelled, MeshFault } from '../fault.ts';
import { hollowVolumes } from './hollow.ts';
import { largestInscribed } from './inscribed.ts';
import { shareAbove } from './plane-cube.ts';
import { SolidField } from './solid-field.ts';
import { measureThickness, thicknessPerVertex } from './thickness.ts';

/** Checks each wall against the answer: within half a per cent, and within the error that is told. */
function expectHollow(shape: Shape, walls: readonly number[], answer: (wall: number) => number, slack = 0): void {
  for (const { wallMm, volumeMm3, errorMm3 } of hollowVolumes(fieldOf(shape), walls)) {
    const off = Math.abs(volumeMm3 - answer(wallMm));
    expect(off / answer(wallMm))
      .withContext(`wall ${wallMm}`)
      .toBeLessThan(0.005);
    expect(off)
      .withContext(`wall ${wallMm}, told error`)
      .toBeLessThan(errorMm3 + slack * answer(wallMm) + 1e-6);
    expect(errorMm3 / volumeMm3)
      .withContext(`wall ${wallMm}, size of the told error`)
      .toBeLessThan(0.006);
  }
}

describe('the metal within a wall', () => {
  it('is exact for boxes but for what is told: the rest is a box smaller by two walls', () => {
    for (const [x, y, z] of [
      [100, 80, 60],
      [300, 200, 6],
      [37, 411, 93],
    ] as const) {
      const inner = (wall: number) => [x, y, z].reduce((product, side) => product * Math.max(0, side - 2 * wall), 1);
      const walls = [1, 2, 2.9, 5, 10].filter((wall) => wall > Math.min(x, y, z) / 100);
      expectHollow(box(x, y, z), walls, (wall) => x * y * z - inner(wall));
    }
  });

  it('follows curved surfaces', () => {
    // Between two spheres, two tori of one middle circle, two cones of one middle; facets are allowed for.
    expectHollow(ball(50, 96, 48), [3, 20], (t) => (4 / 3) * Math.PI * (50 ** 3 - (50 - t) ** 3), 0.002);
    expectHollow(torus(80, 20, 96, 48), [4, 8], (t) => 2 * Math.PI ** 2 * 80 * (400 - (20 - t) ** 2), 0.003);
    const slant = Math.hypot(50, 120);
    const solid = (Math.PI * 2500 * 120) / 3;
    // The ball that touches all of a cone has r·h/(r + slant); a cone smaller by a wall is similar.
    expectHollow(cone(50, 120, 256), [3, 6], (t) => solid * (1 - (1 - t / ((50 * 120) / (50 + slant))) ** 3), 0.001);
  });

  it('counts thin parts as solid, and rounds the wall about an inner edge', () => {
    // A stem of radius 4 on a block: with a wall of 5 the stem is solid.
    const block = turned(
      [
        [0, 0],
        [40, 0],
        [40, 60],
        [4, 60],
        [4, 160],
        [0, 160],
      ],
      192,
    );
    // The block's rest is a cylinder smaller by the wall, and under the stem what lies farther than the wall from its
    // foot's edge: ∫ 2π·(4 − u)·(5 − √(25 − u²)) du from 0 to 4 = 14 mm³.
    expectHollow(block, [5], () => exact(block).body.volumeMm3! - Math.PI * 35 ** 2 * 50 - 14, 0.002);
    // A cube with a cube hollow in it: within the wall of the hollow lie its sides, quarter rounds and corner rounds.
    const hollow = together(box(100, 100, 100), reversed(box(60, 60, 60, [20, 20, 20])));
    const about = (t: number) => 6 * 3600 * t + 12 * 60 * ((Math.PI * t * t) / 4) + (4 / 3) * Math.PI * t ** 3;
    expectHollow(hollow, [2, 5], (t) => 1e6 - (100 - 2 * t) ** 3 + about(t));
  });

  it('grows with the wall up to the solid, and with the cube of the scale', () => {
    const shape = lump(60, 32, 16);
    const walls = [3, 6, 12, 80];
    const found = hollowVolumes(fieldOf(shape), walls);
    found.slice(1).forEach(({ volumeMm3 }, i) => expect(volumeMm3).toBeGreaterThan(found[i]!.volumeMm3));
    expect(found.at(-1)!.volumeMm3).toBeCloseTo(exact(shape).body.volumeMm3!, 3);
    const twice = hollowVolumes(fieldOf(moved(shape, [1000, 0, -500], 2)), [12])[0]!;
    const once = found[1]!;
    expect(Math.abs(twice.volumeMm3 / 8 - once.volumeMm3)).toBeLessThan(twice.errorMm3 / 8 + once.errorMm3);
    // Several walls from one walk agree with each by itself.
    const alone = hollowVolumes(fieldOf(shape), [6])[0]!;
    expect(Math.abs(alone.volumeMm3 - once.volumeMm3)).toBeLessThan(alone.errorMm3 + once.errorMm3);
  });

  it('lies along the real surface of an open model, not along what closes it', () => {
    // A block without its foot: four walls and a top of 5 mm, none over the open foot.
    const { positions, triangles } = box(100, 100, 100);
    const open = { positions, triangles: triangles.filter((_, i) => i >= 6) };
    const { volumeMm3 } = hollowVolumes(fieldOf(open), [5])[0]!;
    expect(volumeMm3 / (1e6 - 90 * 90 * 95)).toBeCloseTo(1, 2);
  });

  it('refuses walls that are none and models without an inside, and can be stopped', () => {
    expect(() => hollowVolumes(fieldOf(box(9, 9, 9)), [0])).toThrowError(MeshFault, /a wall must be above zero/);
    const sheet = { positions: Float64Array.of(0, 0, 0, 9, 0, 0, 0, 9, 1), triangles: Uint32Array.of(0, 1, 2) };
    expect(() => hollowVolumes(fieldOf(sheet), [1])).toThrowError(MeshFault, /encloses nothing/);
    expect(() => hollowVolumes(fieldOf(ball(50)), [1], { cancelled: () => true })).toThrowError(Cancelled);
  });
});

describe('the share of a cube above a plane', () => {
  it('agrees with counting points, whatever the slope', () => {
    const n = 24;
    for (const [x, y, z, s] of [
      [0, 0, 1, 0.3],
      [0.6, 0.8, 0, -0.2],
      [0.577, -0.577, 0.577, 0.9],
      [-0.2, 0.3, 0.93, -1.1],
      [0.7, 0.1, -0.7, 1.2],
    ] as const) {
      const length = Math.hypot(x, y, z);
      const [gx, gy, gz] = [x / length, y / length, z / length];
      let above = 0;
      for (let i = 0; i < n ** 3; i++) {
        const at = [i % n, Math.floor(i / n) % n, Math.floor(i / n / n)].map((k) => (2 * k + 1) / n - 1) as [
          number,
          number,
          number,
        ];
        if (gx * at[0] + gy * at[1] + gz * at[2] > -s) above++;
      }
      expect(Math.abs(shareAbove(gx, gy, gz, s) - above / n ** 3)).toBeLessThan(0.02);
    }
    expect(
      [shareAbove(0, 0, 1, 1.001), shareAbove(0, 1, 0, -1.001), shareAbove(1, 0, 0, 0)].map((share) =>
        Number(share.toFixed(6)),
      ),
    ).toEqual([1, 0, 0.5]);
  });
});

describe('the depth of a point', () => {
  it('is positive in the metal, negative outside and in a cavity, and grows along its direction', () => {
    const field = fieldOf(together(box(100, 100, 100), reversed(box(40, 40, 40, [30, 30, 30]))));
    // About the middle of the box: 50 is the outer side, 20 the cavity's.
    const depth = (x: number, y: number, z: number) => (field.ask(x, y, z), field.depth);
    expect([depth(45, 0, 0), depth(30, 0, 0), depth(0, 0, 0), depth(0, 60, 0), depth(0, 0, 70)]).toEqual([
      5, 10, -20, -10, -20,
    ]);
    field.ask(45, 0, 0);
    expect([field.gx, field.gy, field.gz]).toEqual([-1, 0, 0]);
    // Beside a corner the nearest place is the corner itself: 3, 4 and 12 away are 13.
    expect(depth(53, 54, 62)).toBeCloseTo(-13, 9);
  });

  it('tells inside from outside across a hole', () => {
    const { positions, triangles } = box(100, 100, 100);
    const field = new SolidField(exact({ positions, triangles: triangles.filter((_, i) => i >= 6) }).body);
    expect([field.inside(0, 0, -45), field.inside(0, 0, -55), field.inside(0, 45, 0)]).toEqual([true, false, true]);
  });
});

describe('the largest ball inside', () => {
  it('is found in bodies with one thickest place and with many', () => {
    const radius = (shape: Shape) => largestInscribed(fieldOf(shape)).radiusMm;
    expect(radius(box(100, 80, 60))).toBeCloseTo(30, 3);
    expect(radius(box(300, 200, 6))).toBeCloseTo(3, 4);
    expect(radius(ball(50, 96, 48)) / 50).toBeCloseTo(1, 2);
    expect(radius(torus(80, 20, 96, 48)) / 20).toBeCloseTo(1, 2);
    expect(radius(cone(50, 120, 128)) / ((50 * 120) / 180)).toBeCloseTo(1, 2);
    // A hollow cube: between the corners of both, where the diagonal's depth meets √3 times the distance to the cavity's corner.
    const hollow = together(box(100, 100, 100), reversed(box(40, 40, 40, [30, 30, 30])));
    expect(radius(hollow)).toBeCloseTo((30 * Math.sqrt(3)) / (1 + Math.sqrt(3)), 2);
  });
});

describe('the thickness of the metal', () => {
  it('is that of a plate, a shell, a ring and a ball', () => {
    const plate = measureThickness(fieldOf(box(300, 200, 6)), undefined, 800);
    expect([plate.typicalMm, plate.thickestMm].map((each) => Number(each.toFixed(2)))).toEqual([6, 6]);
    const shell = measureThickness(fieldOf(together(ball(50, 96, 48), reversed(ball(44, 96, 48)))), undefined, 400);
    expect(Math.abs(shell.typicalMm - 6)).toBeLessThan(0.1);
    expect(Math.abs(shell.thinnestMm - 6)).toBeLessThan(0.2);
    const ring = measureThickness(fieldOf(torus(80, 20, 96, 48)), undefined, 300);
    expect(Math.abs(ring.typicalMm - 40)).toBeLessThan(0.8);
  });

  it('is told for every vertex: thick on the block, thin on its stem', () => {
    const shape = turned(
      [
        [0, 0],
        [40, 0],
        [40, 30],
        [40, 60],
        [8, 60],
        [8, 110],
        [8, 160],
        [0, 160],
      ],
      48,
    );
    const field = fieldOf(shape);
    const thick = thicknessPerVertex(field);
    const at = (r: number, z: number) => {
      const { positions } = field.body;
      const v = Array.from({ length: positions.length / 3 }, (_, i) => i).find(
        (i) =>
          Math.abs(positions[3 * i]! - r) < 1e-6 &&
          Math.abs(positions[3 * i + 1]!) < 1e-6 &&
          Math.abs(positions[3 * i + 2]! + 80 - z) < 1e-6,
      )!;
      return thick[v]!;
    };
    expect(at(40, 30)).toBeGreaterThan(45);
    expect(Math.abs(at(8, 110) - 16)).toBeLessThan(0.8);
  });
});
