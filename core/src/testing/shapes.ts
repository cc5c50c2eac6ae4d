// Solids with known answers, as meshes, for the specs and the benchmark of the measuring engine.

export interface Shape {
  readonly positions: Float64Array;
  readonly triangles: Uint32Array;
}

type Place = readonly [number, number, number];

const shape = (positions: readonly Place[], triangles: readonly Place[]): Shape => ({
  positions: Float64Array.from(positions.flat()),
  triangles: Uint32Array.from(triangles.flat()),
});

/** A box with a corner at `at`, faces outward. */
export function box(sx: number, sy: number, sz: number, [x, y, z]: Place = [0, 0, 0]): Shape {
  const places: Place[] = [0, 1, 2, 3, 4, 5, 6, 7].map((i) => [
    x + (i & 1 ? sx : 0),
    y + (i & 2 ? sy : 0),
    z + (i & 4 ? sz : 0),
  ]);
  const quads = [
    [0, 2, 3, 1],
    [4, 5, 7, 6],
    [0, 1, 5, 4],
    [2, 6, 7, 3],
    [0, 4, 6, 2],
    [1, 3, 7, 5],
  ] as const;
  return shape(
    places,
    quads.flatMap(([a, b, c, d]): Place[] => [
      [a, b, c],
      [a, c, d],
    ]),
  );
}

/** A closed surface over a grid of `u` × `v` places; `u` runs round, `v` too where `roundV`, else from pole to pole. */
function grid(u: number, v: number, at: (i: number, j: number) => Place): Shape {
  const places: Place[] = [];
  const triangles: Place[] = [];
  for (let j = 0; j < v; j++) for (let i = 0; i < u; i++) places.push(at(i, j));
  for (let j = 0; j < v; j++)
    for (let i = 0; i < u; i++) {
      const a = j * u + i;
      const b = j * u + ((i + 1) % u);
      const c = ((j + 1) % v) * u + i;
      const d = ((j + 1) % v) * u + ((i + 1) % u);
      triangles.push([a, b, d], [a, d, c]);
    }
  return shape(places, triangles);
}

/** A ring about the z axis; R to the middle of the tube, r its radius. */
export function torus(R: number, r: number, u = 64, v = 32): Shape {
  return grid(u, v, (i, j) => {
    const [a, b] = [(2 * Math.PI * i) / u, (2 * Math.PI * j) / v];
    return [(R + r * Math.cos(b)) * Math.cos(a), (R + r * Math.cos(b)) * Math.sin(a), r * Math.sin(b)];
  });
}

/** Turned about the z axis from a profile of (radius, height), which begins and ends on the axis. */
export function turned(profile: readonly (readonly [number, number])[], u = 64): Shape {
  const inner = profile.slice(1, -1);
  const places: Place[] = inner.flatMap(([r, z]) =>
    Array.from({ length: u }, (_, i): Place => [
      r * Math.cos((2 * Math.PI * i) / u),
      r * Math.sin((2 * Math.PI * i) / u),
      z,
    ]),
  );
  const [bottom, top] = [places.length, places.length + 1];
  places.push([0, 0, profile[0]![1]], [0, 0, profile.at(-1)![1]]);
  const triangles: Place[] = [];
  for (let i = 0; i < u; i++) {
    const n = (i + 1) % u;
    triangles.push([bottom, n, i]);
    for (let j = 0; j + 1 < inner.length; j++) {
      const [a, b, c, d] = [j * u + i, j * u + n, (j + 1) * u + i, (j + 1) * u + n];
      triangles.push([a, b, d], [a, d, c]);
    }
    const last = (inner.length - 1) * u;
    triangles.push([last + i, last + n, top]);
  }
  return shape(places, triangles);
}

/** A ball of `2·u·(v−1)` triangles. */
export const ball = (r: number, u = 64, v = 32): Shape =>
  turned(
    Array.from(
      { length: v + 1 },
      (_, j) => [r * Math.sin((Math.PI * j) / v), -r * Math.cos((Math.PI * j) / v)] as const,
    ),
    u,
  );

export const cone = (r: number, h: number, u = 64): Shape =>
  turned(
    [
      [0, 0],
      [r, 0],
      [0, h],
    ],
    u,
  );

/** A lump with bumps on it, like a modelled surface: a ball whose radius wanders, of about 2·u·v triangles. */
export function lump(r: number, u: number, v: number): Shape {
  const ballish = ball(r, u, v);
  for (let i = 0; i < ballish.positions.length; i += 3) {
    const [x, y, z] = [ballish.positions[i]! / r, ballish.positions[i + 1]! / r, ballish.positions[i + 2]! / r];
    const k =
      1 +
      0.25 * Math.sin(3 * x + 1) * Math.cos(2.5 * y) +
      0.12 * Math.sin(7 * z + 2 * x) +
      0.03 * Math.sin(19 * y + 5 * z) * Math.cos(17 * x);
    ballish.positions[i]! *= k;
    ballish.positions[i + 1]! *= k * 1.1;
    ballish.positions[i + 2]! *= k * 1.7;
  }
  return ballish;
}

export function moved({ positions, triangles }: Shape, by: Place, times = 1): Shape {
  return { positions: positions.map((value, i) => value * times + by[i % 3]!), triangles };
}

/** Faces the other way. */
export const reversed = ({ positions, triangles }: Shape): Shape => ({
  positions,
  triangles: triangles.map((_, i) => triangles[i % 3 === 1 ? i + 1 : i % 3 === 2 ? i - 1 : i]!),
});

export function together(...shapes: readonly Shape[]): Shape {
  const positions = new Float64Array(shapes.reduce((sum, each) => sum + each.positions.length, 0));
  const triangles = new Uint32Array(shapes.reduce((sum, each) => sum + each.triangles.length, 0));
  let [p, t] = [0, 0];
  for (const each of shapes) {
    positions.set(each.positions, p);
    triangles.set(
      each.triangles.map((vertex) => vertex + p / 3),
      t,
    );
    p += each.positions.length;
    t += each.triangles.length;
  }
  return { positions, triangles };
}

/** A binary STL file of a shape. */
export function stlBytes({ positions, triangles }: Shape, header = ''): Uint8Array {
  const count = triangles.length / 3;
  const bytes = new Uint8Array(84 + 50 * count);
  for (let i = 0; i < header.length; i++) bytes[i] = header.charCodeAt(i);
  const view = new DataView(bytes.buffer);
  view.setUint32(80, count, true);
  for (let t = 0; t < count; t++)
    for (let k = 0; k < 9; k++)
      view.setFloat32(84 + 50 * t + 12 + 4 * k, positions[3 * triangles[3 * t + Math.floor(k / 3)]! + (k % 3)]!, true);
  return bytes;
}

export const bytesOf = (text: string): Uint8Array => Uint8Array.from(text, (letter) => letter.charCodeAt(0));
