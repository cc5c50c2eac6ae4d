import { MeshFault } from '../fault.ts';
import type { Direction } from '../direction.ts';
import type { Closed } from '../solid/kernel.ts';

/** From where a model is looked at: towards the viewer, and what is up in the picture. Neither needs a length. */
export interface View {
  readonly from: Direction;
  readonly up: Direction;
}

/** A picture without a background: four bytes a pixel (red, green, blue, how much of it is metal), rows from the top. */
export interface Pixels {
  readonly width: number;
  readonly height: number;
  readonly data: Uint8ClampedArray;
  /** How many millimetres of the model a pixel is wide. */
  readonly mmPerPixel: number;
}

export interface Look {
  readonly width: number;
  readonly height: number;
  /** Red, green and blue of the material, 0 to 255. */
  readonly colour?: readonly [number, number, number];
  /** The same for each vertex instead, three numbers each. */
  readonly colours?: Uint8Array;
}

/** Old bronze. */
const BRONZE = [142, 98, 58] as const;
/** Each pixel is looked at in so many places in each direction. */
const FINE = 2;
/** Left free round the model, as a share of the picture. */
const MARGIN = 0.04;

/** Lights about the viewer (right, up, towards): a large one from the upper left, a weak one from the right, the sky. */
const KEY = unit([-0.55, 0.65, 0.62]);
const FILL = unit([0.8, 0.1, 0.45]);
const LIGHT = { sky: 0.3, key: 0.72, fill: 0.2, gloss: 0.28, sharp: 18 } as const;

/**
 * A picture of a model, without perspective, lit so that form shows. The same model gives the same picture everywhere: it
 * needs no screen.
 * @param mesh a closed mesh facing outward, mm
 * @throws MeshFault where the mesh is empty or the view has no direction
 */
export function renderMesh({ positions, triangles }: Closed, { from, up }: View, look: Look): Pixels {
  const towards = unit(from);
  const right = unit(cross(up, towards));
  if (triangles.length === 0 || ![...towards, ...right].every(Number.isFinite))
    throw new MeshFault('a picture needs a model and a direction to look from');
  const above = cross(towards, right);
  const [width, height] = [look.width * FINE, look.height * FINE];
  const seen = project(positions, [right, above, towards]);
  const { scale, x0, y0 } = framed(seen, width, height);
  const normals = vertexNormals(positions, triangles);
  const depth = new Float32Array(width * height).fill(-Infinity);
  const shade = new Float32Array(3 * width * height);
  const colourAt = (vertex: number, k: number) => look.colours?.[3 * vertex + k] ?? (look.colour ?? BRONZE)[k]!;

  for (let t = 0; t < triangles.length; t += 3) {
    const corners = [triangles[t]!, triangles[t + 1]!, triangles[t + 2]!];
    const [a, b, c] = corners.map((v) => [x0 + seen[3 * v]! * scale, y0 - seen[3 * v + 1]! * scale] as const);
    const area = (b![0] - a![0]) * (c![1] - a![1]) - (c![0] - a![0]) * (b![1] - a![1]);
    // Seen from behind, or edge on.
    if (area >= 0) continue;
    const [left, rightmost] = [Math.min(a![0], b![0], c![0]), Math.max(a![0], b![0], c![0])];
    const [top, bottom] = [Math.min(a![1], b![1], c![1]), Math.max(a![1], b![1], c![1])];
    for (let y = Math.max(0, Math.floor(top)); y <= Math.min(height - 1, Math.ceil(bottom)); y++)
      for (let x = Math.max(0, Math.floor(left)); x <= Math.min(width - 1, Math.ceil(rightmost)); x++) {
        const [px, py] = [x + 0.5, y + 0.5];
        const u = ((b![0] - px) * (c![1] - py) - (c![0] - px) * (b![1] - py)) / area;
        const v = ((c![0] - px) * (a![1] - py) - (a![0] - px) * (c![1] - py)) / area;
        const w = 1 - u - v;
        if (u < 0 || v < 0 || w < 0) continue;
        const [p, q, r] = corners as [number, number, number];
        const z = u * seen[3 * p + 2]! + v * seen[3 * q + 2]! + w * seen[3 * r + 2]!;
        const at = y * width + x;
        if (z <= depth[at]!) continue;
        depth[at] = z;
        const mix = (k: number) => u * normals[3 * p + k]! + v * normals[3 * q + k]! + w * normals[3 * r + k]!;
        const normal = unit([mix(0), mix(1), mix(2)]);
        const facing: Direction = [dot(normal, right), dot(normal, above), dot(normal, towards)];
        const { lit, gloss } = lightOn(facing);
        for (let k = 0; k < 3; k++)
          shade[3 * at + k] = (u * colourAt(p, k) + v * colourAt(q, k) + w * colourAt(r, k)) * lit + 255 * gloss;
      }
  }
  return { ...shrink(shade, depth, look), mmPerPixel: FINE / scale };
}

/** How bright a place is that faces a direction, and what shines in it (J. Blinn, 1977). */
function lightOn(facing: Direction): { lit: number; gloss: number } {
  const key = Math.max(0, dot(facing, KEY));
  const half = unit([KEY[0], KEY[1], KEY[2] + 1]);
  const shine = Math.max(0, dot(facing, half)) ** LIGHT.sharp;
  return {
    lit: LIGHT.sky * (0.6 + 0.4 * facing[1]) + LIGHT.key * key + LIGHT.fill * Math.max(0, dot(facing, FILL)) + 0.12,
    gloss: LIGHT.gloss * shine,
  };
}

/** Where each vertex lies to the right, above and towards the viewer, mm. */
function project(positions: Float64Array, axes: readonly Direction[]): Float64Array {
  const seen = new Float64Array(positions.length);
  for (let i = 0; i < positions.length; i += 3)
    for (let k = 0; k < 3; k++)
      seen[i + k] = positions[i]! * axes[k]![0] + positions[i + 1]! * axes[k]![1] + positions[i + 2]! * axes[k]![2];
  return seen;
}

/** How large, and where, so that the whole model fits. */
function framed(seen: Float64Array, width: number, height: number): { scale: number; x0: number; y0: number } {
  const box = { left: Infinity, right: -Infinity, low: Infinity, high: -Infinity };
  for (let i = 0; i < seen.length; i += 3) {
    box.left = Math.min(box.left, seen[i]!);
    box.right = Math.max(box.right, seen[i]!);
    box.low = Math.min(box.low, seen[i + 1]!);
    box.high = Math.max(box.high, seen[i + 1]!);
  }
  const free = 1 - 2 * MARGIN;
  const scale = Math.min(
    (width * free) / Math.max(1e-9, box.right - box.left),
    (height * free) / Math.max(1e-9, box.high - box.low),
  );
  return {
    scale,
    x0: width / 2 - ((box.left + box.right) / 2) * scale,
    y0: height / 2 + ((box.low + box.high) / 2) * scale,
  };
}

/** Each vertex's direction: the triangles round it, the larger ones counting more. */
export function vertexNormals(p: Float64Array, triangles: Uint32Array): Float64Array {
  const normals = new Float64Array(p.length);
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = [3 * triangles[t]!, 3 * triangles[t + 1]!, 3 * triangles[t + 2]!];
    const to = (v: number): Direction => [p[v]! - p[a]!, p[v + 1]! - p[a + 1]!, p[v + 2]! - p[a + 2]!];
    const out = cross(to(b), to(c));
    for (const v of [a, b, c]) for (let k = 0; k < 3; k++) normals[v + k]! += out[k]!;
  }
  return normals;
}

/** Puts the fine places of each pixel together. */
function shrink(shade: Float32Array, depth: Float32Array, { width, height }: Look): Omit<Pixels, 'mmPerPixel'> {
  const data = new Uint8ClampedArray(4 * width * height);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const sum = [0, 0, 0];
      let metal = 0;
      for (let k = 0; k < FINE * FINE; k++) {
        const at = (y * FINE + Math.floor(k / FINE)) * width * FINE + x * FINE + (k % FINE);
        if (depth[at] === -Infinity) continue;
        metal++;
        for (let c = 0; c < 3; c++) sum[c]! += shade[3 * at + c]!;
      }
      const at = 4 * (y * width + x);
      for (let c = 0; c < 3; c++) data[at + c] = metal > 0 ? sum[c]! / metal : 0;
      data[at + 3] = (255 * metal) / FINE ** 2;
    }
  return { width, height, data };
}

const dot = (a: Direction, b: Direction): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];

function cross(a: Direction, b: Direction): Direction {
  return [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]];
}

function unit(a: Direction): Direction {
  const length = Math.hypot(a[0], a[1], a[2]);
  return [a[0] / length, a[1] / length, a[2] / length];
}
