import { MeshFault } from '../fault.ts';
import { ball, box, lump, moved, together } from '../../testing/shapes.ts';
import { renderMesh } from './render.ts';
import { silhouetteOf } from './silhouette.ts';
import { standIn } from './stand-in.ts';

const FRONT = { from: [0, -1, 0], up: [0, 0, 1] } as const;
const SIZE = { width: 100, height: 100 };
const alphaSum = (data: Uint8ClampedArray): number =>
  data.reduce((sum, each, i) => (i % 4 === 3 ? sum + each / 255 : sum), 0);

describe('a picture of a model', () => {
  it('shows it whole, to scale: a ball covers the area of a circle', () => {
    const { data, mmPerPixel } = renderMesh(ball(50, 48), FRONT, SIZE);
    // 100 mm in 92 of 100 pixels.
    expect(mmPerPixel).toBeCloseTo(100 / 92, 2);
    expect((alphaSum(data) * mmPerPixel ** 2) / (Math.PI * 2500)).toBeCloseTo(1, 1);
  });

  it('shows what is in front: looked at from the other side it is another picture', () => {
    // A small ball before a slab hides part of it, and is hidden by it from behind.
    const scene = together(box(100, 10, 100, [-50, 0, -50]), moved(ball(20), [0, -30, 0]));
    const colours = new Uint8Array(scene.positions.length);
    const slab = box(100, 10, 100).positions.length;
    colours.fill(255, slab);
    const middle = (from: readonly [number, number, number]) => {
      const { data } = renderMesh(scene, { from, up: [0, 0, 1] }, { ...SIZE, colours });
      return data[4 * (50 * 100 + 50)]!;
    };
    expect(middle([0, -1, 0])).toBeGreaterThan(middle([0, 1, 0]) + 60);
  });

  it('is lit from the upper left, so that form shows', () => {
    const { data } = renderMesh(ball(50, 48), FRONT, SIZE);
    const at = (x: number, y: number) => data[4 * (y * 100 + x)]!;
    expect(at(30, 30)).toBeGreaterThan(at(70, 75) + 30);
    expect(() => renderMesh(ball(50), { from: [0, 0, 1], up: [0, 0, 1] }, SIZE)).toThrowError(MeshFault, /direction/);
  });
});

describe('a silhouette', () => {
  it('is the outline in a square of 32, short enough for a tag', () => {
    const path = silhouetteOf(renderMesh(box(200, 10, 100), FRONT, SIZE));
    const numbers = path.match(/[\d.]+/g)!.map(Number);
    expect([Math.min(...numbers), Math.max(...numbers)]).toEqual([1, 31]);
    // Twice as wide as high: the heights keep to the middle half.
    expect(numbers.filter((_, i) => i % 2 === 1).every((y) => y > 8 && y < 24)).toBeTrue();
    const rough = silhouetteOf(renderMesh(lump(100, 90, 60), FRONT, { width: 240, height: 240 }));
    expect(rough.length).toBeLessThan(901);
    expect(rough).toMatch(/^M[\d. ]+L/);
  });

  it('is not taken of nothing', () => {
    expect(() => silhouetteOf({ width: 4, height: 4, data: new Uint8ClampedArray(64), mmPerPixel: 1 })).toThrowError(
      MeshFault,
    );
  });
});

describe('a stand-in', () => {
  it('has fewer triangles over the same vertices, and is left alone where there are few', async () => {
    const fine = lump(100, 200, 120);
    const coarse = await standIn(fine, 4000);
    expect(coarse.length / 3).toBeLessThan(4400);
    expect(Math.max(...coarse)).toBeLessThan(fine.positions.length / 3);
    const cube = box(1, 1, 1);
    expect(await standIn(cube)).toBe(cube.triangles);
  });
});
