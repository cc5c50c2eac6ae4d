import type { Closed } from '../solid/kernel.ts';

/** A binary STL file of a mesh, in mm; `originMm` is added to all coordinates. The format holds no unit: millimetres are meant. */
export function writeStl(
  { positions, triangles }: Closed,
  originMm: readonly [number, number, number] = [0, 0, 0],
): Uint8Array {
  const count = triangles.length / 3;
  const bytes = new Uint8Array(84 + 50 * count);
  const head = 'binary STL, millimetres';
  for (let i = 0; i < head.length; i++) bytes[i] = head.charCodeAt(i);
  const view = new DataView(bytes.buffer);
  view.setUint32(80, count, true);
  const place = (t: number, k: number) => [0, 1, 2].map((axis) => positions[3 * triangles[3 * t + k]! + axis]!);
  for (let t = 0; t < count; t++) {
    const [a, b, c] = [place(t, 0), place(t, 1), place(t, 2)] as [number[], number[], number[]];
    const [u, v] = [b.map((each, k) => each - a[k]!), c.map((each, k) => each - a[k]!)] as [number[], number[]];
    const normal = [0, 1, 2].map((k) => u[(k + 1) % 3]! * v[(k + 2) % 3]! - u[(k + 2) % 3]! * v[(k + 1) % 3]!);
    const length = Math.hypot(...normal) || 1;
    const numbers = [
      ...normal.map((each) => each / length),
      ...[a, b, c].flatMap((each) => each.map((value, k) => value + originMm[k]!)),
    ];
    numbers.forEach((value, i) => view.setFloat32(84 + 50 * t + 4 * i, value, true));
  }
  return bytes;
}
