// Weighing models: against the least that has to be done, against a common loader, and against the promised times.
import {
  openModel,
  readModel,
  sizeModel,
  examine,
  SolidField,
  hollowVolumes,
  Pourable,
  findTraps,
} from '../core/src/mesh/index.ts';
import { lump, stlBytes } from '../core/src/testing/shapes.ts';
import type { BufferAttribute } from 'three';
import { STLLoader } from 'three/examples/jsm/loaders/STLLoader.js';
import { mergeVertices } from 'three/examples/jsm/utils/BufferGeometryUtils.js';
import { line } from './measure.ts';
import type { Line } from './measure.ts';

const WALL_MM = 5;
const MB = 1e6;
const KB = 1024;

/** The quickest of several runs: what the work takes, not what else the machine had to do. */
async function quickest(runs: number, work: () => unknown): Promise<number> {
  let best = Infinity;
  for (let i = 0; i < runs; i++) {
    const began = performance.now();
    await work();
    best = Math.min(best, performance.now() - began);
  }
  return best;
}

/** The least that a binary STL file takes: read the numbers, number equal places, add up, match edges; nothing is checked. */
export function bare(bytes: Uint8Array): { volume: number; area: number; open: number } {
  const view = new DataView(bytes.buffer, bytes.byteOffset);
  const count = view.getUint32(80, true);
  const places = new Float32Array(9 * count);
  const bits = new Int32Array(places.buffer);
  for (let t = 0; t < count; t++)
    for (let k = 0; k < 9; k++) places[9 * t + k] = view.getFloat32(96 + 50 * t + 4 * k, true) + 0;
  let size = 1;
  while (size < 6 * count) size *= 2;
  const table = new Int32Array(size).fill(-1);
  const vertex = new Int32Array(3 * count);
  for (let c = 0; c < 3 * count; c++) {
    const [x, y, z] = [bits[3 * c]!, bits[3 * c + 1]!, bits[3 * c + 2]!];
    let slot = Math.imul(Math.imul(x, 0x85ebca6b) ^ Math.imul(y, 0xc2b2ae35) ^ Math.imul(z, 0x27d4eb2f), 0x9e3779b1);
    slot = (slot ^ (slot >>> 15)) & (size - 1);
    for (let found = table[slot]!; ; found = table[slot]!) {
      if (found < 0) {
        table[slot] = vertex[c] = c;
        break;
      }
      if (bits[3 * found] === x && bits[3 * found + 1] === y && bits[3 * found + 2] === z) {
        vertex[c] = found;
        break;
      }
      slot = (slot + 1) & (size - 1);
    }
  }
  let [volume, area] = [0, 0];
  for (let t = 0; t < count; t++) {
    const p = 9 * t;
    const [ux, uy, uz] = [
      places[p + 3]! - places[p]!,
      places[p + 4]! - places[p + 1]!,
      places[p + 5]! - places[p + 2]!,
    ];
    const [vx, vy, vz] = [
      places[p + 6]! - places[p]!,
      places[p + 7]! - places[p + 1]!,
      places[p + 8]! - places[p + 2]!,
    ];
    const [nx, ny, nz] = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
    volume += places[p]! * nx + places[p + 1]! * ny + places[p + 2]! * nz;
    area += Math.sqrt(nx * nx + ny * ny + nz * nz);
  }
  const [low, high] = [new Int32Array(size).fill(-1), new Int32Array(size)];
  const seen = new Uint8Array(size);
  let open = 0;
  for (let c = 0; c < 3 * count; c++) {
    const [a, b] = [vertex[c]!, vertex[c % 3 === 2 ? c - 2 : c + 1]!];
    const [l, h] = a < b ? [a, b] : [b, a];
    let slot = Math.imul(Math.imul(l, 0x85ebca6b) ^ h, 0x9e3779b1);
    slot = (slot ^ (slot >>> 15)) & (size - 1);
    while (low[slot]! >= 0 && (low[slot] !== l || high[slot] !== h)) slot = (slot + 1) & (size - 1);
    if (low[slot]! < 0) {
      low[slot] = l;
      high[slot] = h;
    }
    open += seen[slot]! === 0 ? 1 : seen[slot] === 1 ? -1 : 0;
    seen[slot]!++;
  }
  return { volume: volume / 6, area: area / 2, open };
}

/** The same with a common loader, its welding, and plain loops over what it gives. */
function byLoader(bytes: Uint8Array): { volume: number; open: number } {
  const geometry = new STLLoader().parse(bytes.buffer as ArrayBuffer);
  geometry.deleteAttribute('normal');
  const merged = mergeVertices(geometry, 0);
  const place = merged.getAttribute('position') as BufferAttribute;
  const index = merged.getIndex()!;
  const edges = new Map<number, number>();
  let volume = 0;
  for (let t = 0; t < index.count; t += 3) {
    const [a, b, c] = [index.getX(t), index.getX(t + 1), index.getX(t + 2)];
    const [ax, ay, az] = [place.getX(a), place.getY(a), place.getZ(a)];
    const [bx, by, bz] = [place.getX(b), place.getY(b), place.getZ(b)];
    const [cx, cy, cz] = [place.getX(c), place.getY(c), place.getZ(c)];
    volume += (ax * (by * cz - bz * cy) + ay * (bz * cx - bx * cz) + az * (bx * cy - by * cx)) / 6;
    for (const [from, to] of [
      [a, b],
      [b, c],
      [c, a],
    ] as const) {
      const key = from < to ? from * 0x4000000 + to : to * 0x4000000 + from;
      edges.set(key, (edges.get(key) ?? 0) + 1);
    }
  }
  return { volume, open: [...edges.values()].filter((count) => count === 1).length };
}

export async function mesh(): Promise<Line[]> {
  const million = stlBytes(lump(150, 1000, 501));
  const count = (million.length - 84) / 50;
  const own = () => examine(sizeModel(readModel(million, 'million.stl'), 'million.stl', { unit: 'mm' }));
  // Both give the same figures, or the comparison would mean nothing.
  const [mine, least] = [own(), bare(million)];
  if (Math.abs(mine.body.volumeMm3! / least.volume - 1) > 1e-5 || least.open !== 0)
    throw new Error('the two ways do not agree');
  const ownMs = await quickest(5, own);
  const bareMs = await quickest(5, () => bare(million));
  const loaderMs = await quickest(1, () => byLoader(million));

  const quarter = stlBytes(lump(150, 500, 251));
  const source = { bytes: quarter, name: 'quarter.stl', unit: 'mm' as const };
  const began = performance.now();
  const { body } = await openModel(source);
  const [hollow] = hollowVolumes(new SolidField(body), [WALL_MM]);
  const hollowS = (performance.now() - began) / 1000;
  const trapsMs = await quickest(3, () => findTraps(new Pourable(body), [0.2, 0.1, 1]));
  return [
    line(`Reading and measuring ${count} triangles`, ownMs, 'ms'),
    line('… against reading, summing and edge matching alone', ownMs / bareMs, '×', 1.5),
    line('… against a common loader, its welding and plain loops', ownMs / loaderMs, '×', 1),
    line(`A wall of ${WALL_MM} mm in ${(quarter.length - 84) / 50} triangles, read to figure`, hollowS, 's', 10),
    line('… its told error', (100 * hollow!.errorMm3) / hollow!.volumeMm3, '%', 0.5),
    line(
      'Most memory the process had, all of this and the loader included',
      (process.resourceUsage().maxRSS * KB) / MB,
      'MB',
    ),
    line('Traps of the same model, tree and all', trapsMs / 1000, 's', 1),
  ];
}
