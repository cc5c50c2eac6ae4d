// What triangles bound: counts, faults, repair, and which shell is what. Polyhedra have exact answers.
import { exact, fromStl } from '../../testing/models.ts';
import type { Shape } from '../../testing/shapes.ts';
import { ball, box, cone, moved, reversed, stlBytes, together, torus, turned } from '../../testing/shapes.ts';
import { readModel } from '../read/read.ts';
import { sizeModel } from './model.ts';

const CM3 = 1000;
const without = ({ positions, triangles }: Shape, ...gone: number[]): Shape => ({
  positions,
  triangles: triangles.filter((_, i) => !gone.includes(Math.floor(i / 3))),
});
const turnedOver = ({ positions, triangles }: Shape, t: number): Shape => {
  const copy = triangles.slice();
  [copy[3 * t], copy[3 * t + 1]] = [copy[3 * t + 1]!, copy[3 * t]!];
  return { positions, triangles: copy };
};
const faces = (positions: number[][], triangles: number[][]): Shape => ({
  positions: Float64Array.from(positions.flat()),
  triangles: Uint32Array.from(triangles.flat()),
});

describe('the body that triangles bound', () => {
  it('has the exact volume, surface and centroid of a polyhedron', () => {
    const { body, findings } = exact(box(30, 20, 10, [5, 6, 7]));
    expect(body.volumeMm3).toBeCloseTo(6000, 9);
    expect(body.areaMm2).toBeCloseTo(2 * (600 + 300 + 200), 9);
    [20, 16, 12].forEach((value, k) => expect(body.centroidMm[k]).toBeCloseTo(value, 9));
    expect(findings.boxMm).toEqual({ min: [5, 6, 7], max: [35, 26, 17] });
    expect([findings.triangles, findings.vertices, findings.shells, findings.watertight]).toEqual([12, 8, 1, true]);
    expect(findings.warnings).toEqual([]);
    // A regular n-sided cone: base n/2·r²·sin(2π/n), a third of base × height, centroid at a quarter of the height.
    const n = 12;
    const spire = exact(cone(50, 120, n)).body;
    expect(spire.volumeMm3).toBeCloseTo(((n / 2) * 2500 * Math.sin((2 * Math.PI) / n) * 120) / 3, 6);
    expect(spire.centroidMm[2]).toBeCloseTo(30, 9);
  });

  it('comes near the ideal solid as facets grow finer', () => {
    // Facets of 2.25° by 2.25° or 4.5° cut off between 0.06 and 0.13 %.
    const close = (shape: Shape, ideal: number) => {
      const share = exact(shape).body.volumeMm3! / ideal;
      expect(share).toBeGreaterThan(0.9985);
      expect(share).toBeLessThan(1);
    };
    close(ball(50, 160, 80), (4 / 3) * Math.PI * 50 ** 3);
    close(torus(80, 20, 160, 80), 2 * Math.PI ** 2 * 80 * 400);
    const shaft = turned(
      [
        [0, 0],
        [40, 0],
        [40, 60],
        [15, 60],
        [15, 200],
        [0, 200],
      ],
      160,
    );
    close(shaft, Math.PI * (1600 * 60 + 225 * 140));
  });

  it('loses nothing far from the origin', () => {
    // 4 km away a double still has 10⁻¹² m.
    const shape = moved(torus(80, 20), [4e6, -4e6, 4e6]);
    const { body } = exact(shape);
    expect(body.volumeMm3! / exact(torus(80, 20)).body.volumeMm3!).toBeCloseTo(1, 8);
    expect(body.centroidMm[0]).toBeCloseTo(4e6, 4);
  });

  it('is scaled, sized to a height, and asked for its unit', () => {
    const file = readModel(stlBytes(box(0.3, 0.2, 0.1)), 'x.stl');
    expect(() => sizeModel(file, 'x.stl')).toThrowError(
      /x\.stl does not say its unit: 0\.3 × 0\.2 × 0\.1, metres\?.*guess is m/,
    );
    const twice = fromStl(box(0.3, 0.2, 0.1), { unit: 'm', scale: 2 }).body;
    // k², k³ of a box of 300 × 200 × 100 mm, in single precision.
    expect(twice.volumeMm3! / (8 * 6e6)).toBeCloseTo(1, 6);
    expect(twice.areaMm2 / (4 * 220_000)).toBeCloseTo(1, 6);
    // So that it is 50 mm high the unit need not be known.
    expect(fromStl(box(0.3, 0.2, 0.1), { heightMm: 50 }).body.volumeMm3! / (6e6 / 8)).toBeCloseTo(1, 6);
    expect(fromStl(box(3, 2, 1), { unit: 'in' }).body.volumeMm3! / (6 * 25.4 ** 3)).toBeCloseTo(1, 6);
    for (const wrong of [
      { unit: 'mm', scale: 0 },
      { unit: 'mm', heightMm: -1 },
      { unit: 'mm', scale: 1, heightMm: 1 },
    ] as const)
      expect(() => sizeModel(file, 'x.stl', wrong)).toThrowError(/above zero|not both/);
  });

  it('counts open and crowded edges of the triangles as the file has them', () => {
    // A missing triangle leaves its three edges open.
    const holed = exact(without(box(30, 20, 10), 4)).findings;
    expect([holed.openEdges, holed.nonManifoldEdges, holed.watertight]).toEqual([3, 0, false]);
    // A double leaves its three edges crowded, and is left out of what is measured.
    const shape = box(30, 20, 10);
    const doubled = exact({
      positions: shape.positions,
      triangles: Uint32Array.from([...shape.triangles, ...shape.triangles.subarray(0, 3)]),
    });
    expect([doubled.findings.openEdges, doubled.findings.nonManifoldEdges, doubled.findings.triangles]).toEqual([
      0, 3, 13,
    ]);
    expect(doubled.body.volumeMm3).toBeCloseTo(6000, 9);
    expect(doubled.findings.warnings).toEqual(['1 double triangle left out']);
  });

  it('turns single triangles and whole shells the right way', () => {
    const one = exact(turnedOver(box(30, 20, 10), 7));
    expect(one.body.volumeMm3).toBeCloseTo(6000, 9);
    expect(one.findings.insideOutShells).toBe(0);
    expect(one.findings.warnings).toEqual(['1 triangle faced the wrong way and was turned over']);
    const whole = exact(reversed(ball(50)));
    expect(whole.body.volumeMm3).toBeCloseTo(exact(ball(50)).body.volumeMm3!, 6);
    expect(whole.findings.insideOutShells).toBe(1);
    expect(whole.findings.warnings).toEqual(['the model was inside out and was turned over']);
  });

  it('keeps a band with a twist apart, which has no inside', () => {
    const n = 16;
    const places = Array.from({ length: n }, (_, i) => {
      const [a, half] = [(2 * Math.PI * i) / n, (Math.PI * i) / n];
      return [-1, 1].map((side) => [
        Math.cos(a) * (10 + side * Math.cos(half)),
        Math.sin(a) * (10 + side * Math.cos(half)),
        side * Math.sin(half),
      ]);
    }).flat();
    const bands = Array.from({ length: n }, (_, i) => {
      const last = i === n - 1;
      const [a, b, c, d] = [2 * i, 2 * i + 1, last ? 1 : 2 * i + 2, last ? 0 : 2 * i + 3];
      return [
        [a, b, d],
        [a, d, c],
      ];
    }).flat();
    const { findings } = exact(faces(places, bands));
    expect(findings.warnings.some((text) => text.includes('twisted band'))).toBeTrue();
  });
});

describe('shells in shells', () => {
  const outer = box(100, 100, 100);
  const inner = box(40, 40, 40, [30, 30, 30]);

  it('are cavities where they face the other way, also in a model that came mirrored', () => {
    const hollow = exact(together(outer, reversed(inner)));
    expect(hollow.body.volumeMm3).toBeCloseTo(936 * CM3, 6);
    expect(hollow.body.areaMm2).toBeCloseTo(6 * (10_000 + 1600), 6);
    expect([hollow.findings.shells, hollow.findings.cavities, hollow.findings.insideOutShells]).toEqual([2, 1, 0]);
    const mirrored = exact(reversed(together(outer, reversed(inner))));
    expect(mirrored.body.volumeMm3).toBeCloseTo(936 * CM3, 6);
    expect(mirrored.findings.insideOutShells).toBe(1);
    // A body loose in the cavity counts again.
    const loose = exact(together(outer, reversed(inner), box(10, 10, 10, [45, 45, 45])));
    expect(loose.body.volumeMm3).toBeCloseTo(937 * CM3, 6);
  });

  it('add nothing where they face the same way, and that is said', () => {
    const { body, findings } = exact(together(outer, inner));
    expect(body.volumeMm3).toBeCloseTo(1000 * CM3, 6);
    expect(findings.warnings[0]).toContain('facing outward like it: read as solid, adding nothing');
  });

  it('stay by themselves where they only touch along an edge', () => {
    const { body, findings } = exact(together(box(10, 10, 10), box(10, 10, 10, [10, 10, 0])));
    expect(body.volumeMm3).toBeCloseTo(2000, 9);
    expect([findings.nonManifoldEdges, findings.openEdges, findings.shells]).toEqual([1, 0, 2]);
  });

  it('that overlap are told', () => {
    const two = exact(together(outer, box(100, 100, 100, [50, 50, 50])));
    expect(two.overlapping?.length).toBe(2);
    expect(two.findings.warnings).toEqual(['1 pair of shells overlap']);
    expect(exact(together(outer, moved(outer, [100, 0, 0]))).overlapping).toBeUndefined();
  });
});

describe('open and crowded models', () => {
  it('get their volume by closing the holes, with what that leaves unsure', () => {
    const whole = exact(ball(50, 64, 32)).body.volumeMm3!;
    // The uppermost cap of the ball is missing: 5 of 32 rings of triangles, which begin at the lower pole.
    const shape = ball(50, 64, 32);
    const count = shape.triangles.length / 3;
    const low: number[] = [];
    for (let t = 0; t < count; t++)
      if (
        [0, 1, 2].some(
          (k) => shape.positions[3 * shape.triangles[3 * t + k]! + 2]! > 50 * Math.cos((5 * Math.PI) / 32) + 1e-9,
        )
      )
        low.push(t);
    const { body, findings } = exact(without(shape, ...low));
    expect(body.isOpen).toBeTrue();
    expect(body.volumeMm3!).toBeLessThan(whole);
    expect(Math.abs(whole - body.volumeMm3!)).toBeLessThan(body.volumePlusMinusMm3);
    expect(findings.warnings[0]).toMatch(/the model is open: 1 hole closed by a fan over its rim .* ± .* cm³/);
  });

  it('get none where they enclose nothing', () => {
    const sheet = faces(
      [
        [0, 0, 0],
        [50, 0, 0],
        [50, 50, 0],
        [0, 50, 9],
      ],
      [
        [0, 1, 2],
        [0, 2, 3],
      ],
    );
    const { body, findings } = exact(sheet);
    expect(body.volumeMm3).toBeUndefined();
    expect(findings.warnings.at(-1)).toContain('no volume can be told');
    expect(body.areaMm2).toBeGreaterThan(2500);
  });

  it('are told from their fins and inner walls, which bound nothing', () => {
    // A fin on an edge of a box, and a wall inside that parts it in two: neither changes the metal.
    const shape = box(30, 20, 10);
    const fin = {
      positions: Float64Array.from([...shape.positions, 15, -10, 20]),
      triangles: Uint32Array.from([...shape.triangles, 4, 5, 8]),
    };
    const finned = exact(fin);
    expect(finned.body.volumeMm3).toBeCloseTo(6000, 9);
    expect([finned.findings.openEdges, finned.findings.nonManifoldEdges]).toEqual([2, 1]);
    const two = together(
      without(box(10, 10, 10), 10, 11),
      without(box(10, 10, 10, [10, 0, 0]), 8, 9),
      faces(
        [
          [10, 0, 0],
          [10, 10, 0],
          [10, 0, 10],
          [10, 10, 10],
        ],
        [
          [0, 1, 3],
          [0, 3, 2],
        ],
      ),
    );
    const parted = exact(two);
    expect(parted.findings.nonManifoldEdges).toBe(4);
    expect(parted.body.volumeMm3).toBeCloseTo(2000, 9);
    expect(parted.findings.warnings).toEqual(['1 open sheet that encloses nothing left out of the volume']);
  });

  it('are welded within a tolerance that is said, where that closes them', () => {
    // Every triangle with corners of its own, each off by up to 2 µm.
    const shape = ball(50, 32, 16);
    let seed = 1;
    const off = () => ((seed = (seed * 16807) % 2147483647) / 2147483647 - 0.5) * 0.004;
    const loose = {
      positions: Float64Array.from(
        [...shape.triangles].flatMap((v) => [0, 1, 2].map((k) => shape.positions[3 * v + k]! + off())),
      ),
      triangles: Uint32Array.from(shape.triangles.keys()),
    };
    const { body, findings } = exact(loose);
    expect([findings.openEdges, findings.watertight, findings.shells]).toEqual([0, true, 1]);
    expect(findings.weldToleranceMm).toBeGreaterThan(0.002);
    expect(findings.weldToleranceMm).toBeLessThan(0.05);
    expect(findings.warnings[0]).toMatch(/vertices on open edges within .* mm were taken for one/);
    expect(body.volumeMm3! / exact(shape).body.volumeMm3!).toBeCloseTo(1, 3);
  });
});
