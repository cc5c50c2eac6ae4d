// Uniting and cutting by the geometry kernel, and the files that sections are handed out in.
import { exact, testKernel } from '../../testing/models.ts';
import type { Shape } from '../../testing/shapes.ts';
import { ball, box, reversed, stlBytes, together, torus } from '../../testing/shapes.ts';
import { MeshFault } from '../fault.ts';
import { measureModel } from '../measure.ts';
import { readModel } from '../read/read.ts';
import { writeStl } from '../write/stl.ts';
import { write3mf } from '../write/three-mf.ts';
import { cutSections } from './cut.ts';
import { uniteShells } from './unite.ts';

const cut = async (shape: Shape, ...planes: { normal: [number, number, number]; offsetMm: number }[]) =>
  cutSections(exact(shape).body, planes, await testKernel());

describe('shells that overlap', () => {
  const cube = box(100, 100, 100);

  it('are united, cavities kept, so that no metal counts twice', async () => {
    const kernel = await testKernel();
    const united = (shape: Shape) => uniteShells(exact(shape), kernel);
    const two = united(together(cube, box(100, 100, 100, [50, 50, 50])));
    // Two cubes that share one of 50: 2·1,000 − 125 cm³, six sides each without the shared corners' three.
    expect(two.body.volumeMm3).toBeCloseTo(1.875e6, 0);
    expect(two.body.areaMm2).toBeCloseTo(2 * 60_000 - 6 * 2500, 0);
    expect(two.findings.warnings.at(-1)).toContain('united');
    const hollow = united(together(cube, reversed(box(20, 20, 20, [20, 20, 20])), box(100, 100, 100, [50, 50, 50])));
    expect(hollow.body.volumeMm3).toBeCloseTo(1.875e6 - 8000, 0);
    // The walls of the united body, not of the parts: an L of two cubes side by side is one long block.
    const block = united(together(cube, box(100, 100, 100, [60, 0, 0]))).body;
    expect(block.volumeMm3).toBeCloseTo(1.6e6, 0);
  });

  it('stay as they are, with a warning, where one is not closed edge by edge', async () => {
    const open = { positions: cube.positions, triangles: cube.triangles.slice(3) };
    // A twisted shell cannot be taken; an open one is closed before.
    const closed = uniteShells(exact(together(open, box(100, 100, 100, [50, 50, 50]))), await testKernel());
    expect(closed.body.volumeMm3).toBeCloseTo(1.875e6, 0);
  });
});

describe('cutting', () => {
  it('gives closed sections with volume, surface, cut and seam', async () => {
    // 100 × 80 × 60 about z = 20, in the file's place far from the origin.
    const sections = await cut(box(100, 80, 60, [1000, 0, 500]), { normal: [0, 0, 2], offsetMm: 2 * 520 });
    expect(sections.map(({ volumeMm3 }) => Math.round(volumeMm3))).toEqual([320_000, 160_000]);
    for (const { cuts, areaMm2, volumeMm3 } of sections) {
      expect(cuts.length).toBe(1);
      expect(cuts[0]!.areaMm2).toBeCloseTo(8000, 1);
      expect(cuts[0]!.outlineMm).toBeCloseTo(360, 2);
      expect(areaMm2).toBeCloseTo(2 * 8000 + (360 * volumeMm3) / 8000, 1);
    }
    expect(sections[1]!.centroidMm.map(Math.round)).toEqual([1050, 40, 510]);
  });

  it('goes through hollows and gives the outlines of both sides', async () => {
    const shell = together(ball(50, 96, 48), reversed(ball(40, 96, 48)));
    const [half] = await cut(shell, { normal: [0, 0, 1], offsetMm: 0 });
    // A ring of 50 and 40: π·(2500 − 1600), and both circles; facets cut off little.
    expect(half!.cuts[0]!.areaMm2 / (Math.PI * 900)).toBeCloseTo(1, 2);
    expect(half!.cuts[0]!.outlineMm / (2 * Math.PI * 90)).toBeCloseTo(1, 2);
  });

  it('cuts by several planes, and refuses one that misses', async () => {
    const planes = [
      { normal: [1, 0, 0] as [number, number, number], offsetMm: 0 },
      { normal: [0, 1, 0] as [number, number, number], offsetMm: 10 },
    ];
    const ring = torus(80, 20, 48, 24);
    const quarters = await cut(ring, ...planes);
    expect(quarters.length).toBe(4);
    const total = quarters.reduce((sum, { volumeMm3 }) => sum + volumeMm3, 0);
    expect(total / exact(ring).body.volumeMm3!).toBeCloseTo(1, 5);
    await expectAsync(cut(ring, { normal: [0, 0, 1], offsetMm: 500 })).toBeRejectedWithError(
      MeshFault,
      /plane 1 does not go through/,
    );
    await expectAsync(cut(ring, { normal: [0, 0, 0], offsetMm: 0 })).toBeRejectedWithError(
      MeshFault,
      /needs a direction/,
    );
  });

  it('hands sections out as STL and 3MF that read as what they are', async () => {
    const [section] = await cut(box(100, 80, 60, [500, 0, 0]), { normal: [0, 0, 1], offsetMm: 20 });
    const measured = async (bytes: Uint8Array, name: string) => (await measureModel({ bytes, name, unit: 'mm' })).body;
    const stl = await measured(writeStl(section!.mesh, section!.originMm), 'section.stl');
    expect([stl.volumeMm3, ...stl.centroidMm].map((each) => Math.round(each!))).toEqual([320_000, 550, 40, 40]);
    const packed = write3mf([
      { name: 'left <wing> & "head"', ...section!.mesh, originMm: section!.originMm },
      { name: 'same', ...section!.mesh },
    ]);
    const both = readModel(packed, 'sections.3mf');
    expect([both.unit, both.triangles.length]).toEqual(['mm', 2 * section!.mesh.triangles.length]);
  });
});

describe('measuring a file', () => {
  it('follows and can be stopped', async () => {
    const source = { bytes: stlBytes(ball(50)), name: 'ball.stl', unit: 'mm' as const, wallsMm: [5, 60] };
    const shares: number[] = [];
    const { hollow, body, maxInscribedRadiusMm } = await measureModel(source, {
      onProgress: (share) => shares.push(share),
    });
    expect(shares.every((share, i) => share >= 0 && share <= 1 && (i === 0 || share >= shares[i - 1]!))).toBeTrue();
    // No ball of 60 fits: the wall makes it solid, without any error.
    expect(hollow[1]).toEqual({ wallMm: 60, volumeMm3: body.volumeMm3!, errorMm3: 0 });
    expect(maxInscribedRadiusMm! / 50).toBeCloseTo(1, 2);
    let asked = 0;
    await expectAsync(measureModel(source, { cancelled: () => ++asked > 5 })).toBeRejectedWithError('stopped');
  });
});
