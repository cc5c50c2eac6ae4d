// Model files as tools write them, made from a shape: for the specs of the readers.
import { strToU8, zipSync } from 'fflate';
import type { Shape } from './shapes.ts';
import { bytesOf } from './shapes.ts';

const triangleList = ({ triangles }: Shape): number[][] =>
  Array.from({ length: triangles.length / 3 }, (_, t) => [...triangles.subarray(3 * t, 3 * t + 3)]);
const vertexList = ({ positions }: Shape): number[][] =>
  Array.from({ length: positions.length / 3 }, (_, v) => [...positions.subarray(3 * v, 3 * v + 3)]);

export const stlText = (shape: Shape, name = 'x'): string => {
  const places = vertexList(shape);
  const facets = triangleList(shape).map(
    (corners) =>
      ` facet normal 0 0 1\n  outer loop\n${corners.map((v) => `   vertex ${places[v]!.join(' ')}\n`).join('')}  endloop\n endfacet\n`,
  );
  return `solid ${name}\n${facets.join('')}endsolid ${name}\n`;
};

export const objText = (shape: Shape, corner = (v: number) => `${v + 1}`): string =>
  [
    ...vertexList(shape).map((place) => `v ${place.join(' ')}`),
    ...triangleList(shape).map((corners) => `f ${corners.map(corner).join(' ')}`),
  ].join('\n');

export type PlyKind = 'ascii' | 'binary_little_endian' | 'binary_big_endian';

/** A PLY file; `extra` puts further properties and an element of its own in between. */
export function plyBytes(shape: Shape, kind: PlyKind, extra = false): Uint8Array {
  const [places, faces] = [vertexList(shape), triangleList(shape)];
  const head = [
    'ply',
    `format ${kind} 1.0`,
    'comment made for a test',
    ...(extra ? ['element camera 1', 'property list uchar short path', 'property double view'] : []),
    `element vertex ${places.length}`,
    ...(extra ? ['property uchar red'] : []),
    ...['x', 'y', 'z'].map((axis) => `property double ${axis}`),
    `element face ${faces.length}`,
    'property list uchar int vertex_indices',
    ...(extra ? ['property list uchar float texcoord'] : []),
    'end_header',
    '',
  ].join('\n');
  /** Every number with its bytes, in the order of the file. */
  const numbers: [number, 'Uint8' | 'Int16' | 'Int32' | 'Float32' | 'Float64'][][] = [
    ...(extra
      ? [
          [
            [2, 'Uint8'],
            [3, 'Int16'],
            [-4, 'Int16'],
            [0.5, 'Float64'],
          ] as [number, 'Uint8'][],
        ]
      : []),
    ...places.map((place) => [
      ...(extra ? [[200, 'Uint8'] as [number, 'Uint8']] : []),
      ...place.map((value): [number, 'Float64'] => [value, 'Float64']),
    ]),
    ...faces.map((corners) => [
      [3, 'Uint8'] as [number, 'Uint8'],
      ...corners.map((vertex): [number, 'Int32'] => [vertex, 'Int32']),
      ...(extra
        ? ([
            [2, 'Uint8'],
            [0.25, 'Float32'],
            [0.75, 'Float32'],
          ] as [number, 'Uint8'][])
        : []),
    ]),
  ];
  if (kind === 'ascii')
    return bytesOf(head + numbers.map((row) => `${row.map(([value]) => value).join(' ')}\n`).join(''));
  const bytes: number[] = [...bytesOf(head)];
  const view = new DataView(new ArrayBuffer(8));
  const sizes = { Uint8: 1, Int16: 2, Int32: 4, Float32: 4, Float64: 8 };
  for (const [value, type] of numbers.flat()) {
    view[`set${type}`](0, value, kind === 'binary_little_endian');
    for (let i = 0; i < sizes[type]; i++) bytes.push(view.getUint8(i));
  }
  return Uint8Array.from(bytes);
}

export const meshXml = (shape: Shape): string =>
  `<mesh><vertices>${vertexList(shape)
    .map(([x, y, z]) => `<vertex x="${x}" y="${y}" z="${z}"/>`)
    .join('')}</vertices><triangles>${triangleList(shape)
    .map(([a, b, c]) => `<triangle v1="${a}" v2="${b}" v3="${c}"/>`)
    .join('')}</triangles></mesh>`;

export const modelXml = (objects: string, build: string, unit = 'millimeter', before = ''): string =>
  `<?xml version="1.0"?>${before}<model unit="${unit}" xmlns="m" xmlns:p="p"><resources>${objects}</resources><build>${build}</build></model>`;

/** A 3MF package of model files; the first is the one that the relations name. */
export function packageOf(files: Readonly<Record<string, string | Uint8Array>>, level: 0 | 6 = 6): Uint8Array {
  const [first] = Object.keys(files);
  const relation = `<Relationships><Relationship Id="r" Target="/${first}" Type="http://schemas.microsoft.com/3dmanufacturing/2013/01/3dmodel"/></Relationships>`;
  const packed = Object.entries(files).map(([name, text]) => [name, typeof text === 'string' ? strToU8(text) : text]);
  return zipSync(
    { '_rels/.rels': strToU8(relation), ...(Object.fromEntries(packed) as Record<string, Uint8Array>) },
    { level },
  );
}

export const RELATED = '3D/model.model';

/** The glTF description of one mesh: places as floats, corners as 16-bit numbers, in one buffer. */
export function gltfOf(
  shape: Shape,
  changes: Record<string, unknown> = {},
): { json: Record<string, unknown>; data: Uint8Array } {
  const places = Float32Array.from(shape.positions);
  const corners = Uint16Array.from(shape.triangles);
  const data = new Uint8Array(Math.ceil((places.byteLength + corners.byteLength) / 4) * 4);
  data.set(new Uint8Array(places.buffer));
  data.set(new Uint8Array(corners.buffer), places.byteLength);
  const json = {
    asset: { version: '2.0' },
    scene: 0,
    scenes: [{ nodes: [0] }],
    nodes: [{ mesh: 0 }],
    meshes: [{ primitives: [{ attributes: { POSITION: 0 }, indices: 1 }] }],
    accessors: [
      { bufferView: 0, componentType: 5126, count: places.length / 3, type: 'VEC3' },
      { bufferView: 1, componentType: 5123, count: corners.length, type: 'SCALAR' },
    ],
    bufferViews: [
      { buffer: 0, byteOffset: 0, byteLength: places.byteLength },
      { buffer: 0, byteOffset: places.byteLength, byteLength: corners.byteLength },
    ],
    buffers: [{ byteLength: data.length }],
    ...changes,
  };
  return { json, data };
}

export function glbOf({ json, data }: { json: Record<string, unknown>; data: Uint8Array }): Uint8Array {
  const text = strToU8(JSON.stringify(json));
  const length = Math.ceil(text.length / 4) * 4;
  const bytes = new Uint8Array(28 + length + data.length).fill(32);
  const view = new DataView(bytes.buffer);
  [0x46546c67, 2, bytes.length, length, 0x4e4f534a].forEach((value, i) => view.setUint32(4 * i, value, true));
  bytes.set(text, 20);
  view.setUint32(20 + length, data.length, true);
  view.setUint32(24 + length, 0x004e4942, true);
  bytes.set(data, 28 + length);
  return bytes;
}
