import { strFromU8 } from 'fflate';
import { MeshFault, step } from '../fault.ts';
import type { Watch } from '../fault.ts';
import { LIMITS } from '../limits.ts';
import { TOO_MANY } from './collect.ts';
import type { FileMesh } from './file.ts';
import { GltfData } from './gltf-data.ts';
import type { Gltf, GltfNode, GltfPrimitive } from './gltf-json.ts';
import { UNPLACED, placed } from './matrix.ts';
import type { Placement } from './matrix.ts';
import { assemble } from './parts.ts';
import type { Part } from './parts.ts';

const [MAGIC, JSON_CHUNK, DATA_CHUNK] = [0x46546c67, 0x4e4f534a, 0x004e4942];
const [STRIP, FAN, TRIANGLES] = [5, 6, 4];

/** Extensions that change or hide the shape and are not read. */
const UNREAD = ['KHR_draco_mesh_compression', 'EXT_meshopt_compression', 'EXT_mesh_gpu_instancing'];

/**
 * Reads a GLB or glTF file: the triangles of the scene, each mesh where its nodes place it, in metres with Y up as the
 * format says. Bones, morphs and pictures are passed over. Files beside it are not fetched.
 * @throws MeshFault where the file is cut off, names what does not exist, or is packed
 */
export function readGltf(bytes: Uint8Array, watch?: Watch): FileMesh {
  const { json, inner } = isGlb(bytes) ? unwrap(bytes) : { json: parse(bytes), inner: undefined };
  const required = json.extensionsRequired ?? [];
  const unread = UNREAD.find((name) => Array.isArray(required) && required.includes(name));
  if (unread) throw new MeshFault(`the file needs the extension ${unread}: save it without`);
  const warnings = new Set<string>();
  const data = new GltfData(json, inner, bytes.length);
  const parts = new Map<number, Part[]>();
  const partsOf = (index: number): Part[] => {
    const known = parts.get(index);
    if (known) return known;
    const mesh = json.meshes?.[index];
    if (!mesh) throw new MeshFault(`a node names the mesh ${index}, which does not exist`);
    step(watch, 0.5, 'reading triangles');
    const read = (mesh.primitives ?? []).flatMap((primitive) => readPrimitive(primitive, data, warnings));
    parts.set(index, read);
    return read;
  };
  const placements: { part: Part; at: Placement }[] = [];
  let triangles = 0;
  walk(json, (node, at) => {
    if (node.skin !== undefined) warnings.add('the model has bones; it is measured as it was modelled');
    if (node.extensions?.['EXT_mesh_gpu_instancing'])
      throw new MeshFault('the file repeats parts by an extension: save it without');
    if (node.mesh === undefined) return;
    for (const part of partsOf(node.mesh)) {
      triangles += part.triangles.length / 3;
      if (triangles > LIMITS.triangles) throw new MeshFault(TOO_MANY);
      placements.push({ part, at });
    }
  });
  if (triangles === 0) throw new MeshFault('the file holds no triangle');
  return { format: 'glTF', ...assemble(placements), unit: 'm', up: 'y', warnings: [...warnings] };
}

const isGlb = (bytes: Uint8Array): boolean =>
  bytes.length >= 4 && new DataView(bytes.buffer, bytes.byteOffset).getUint32(0, true) === MAGIC;

/** The JSON and the data of a GLB file. */
function unwrap(bytes: Uint8Array): { json: Gltf; inner: Uint8Array | undefined } {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (bytes.length < 20) throw new MeshFault('the GLB file is cut off');
  if (view.getUint32(4, true) !== 2) throw new MeshFault(`GLB version ${view.getUint32(4, true)} is not read, only 2`);
  const said = view.getUint32(8, true);
  if (said > bytes.length) throw new MeshFault(`the file says ${said} bytes and has ${bytes.length}: it is cut off`);
  let json: Gltf | undefined;
  let inner: Uint8Array | undefined;
  for (let at = 12; at + 8 <= said;) {
    const [length, kind] = [view.getUint32(at, true), view.getUint32(at + 4, true)];
    if (at + 8 + length > said) throw new MeshFault('a part of the GLB file is longer than the file');
    const chunk = bytes.subarray(at + 8, at + 8 + length);
    if (kind === JSON_CHUNK) json ??= parse(chunk);
    else if (kind === DATA_CHUNK) inner ??= chunk;
    at += 8 + Math.ceil(length / 4) * 4;
  }
  if (!json) throw new MeshFault('the GLB file has no description of its parts');
  return { json, inner };
}

function parse(bytes: Uint8Array): Gltf {
  let json: unknown;
  try {
    json = JSON.parse(strFromU8(bytes).replace(/^\uFEFF/, ''));
  } catch {
    throw new MeshFault('the description in the file is no JSON: it is cut off or damaged');
  }
  if (typeof json !== 'object' || json === null || Array.isArray(json))
    throw new MeshFault('the description in the file is no glTF');
  return json as Gltf;
}

/** Visits every node of the scene with its placement. @throws MeshFault where nodes hang in a circle or repeat without end */
function walk(json: Gltf, visit: (node: GltfNode, at: Placement) => void): void {
  const nodes = json.nodes ?? [];
  const list = (value: unknown): readonly number[] => {
    if (value === undefined) return [];
    if (!Array.isArray(value) || value.some((each) => !Number.isInteger(each) || !nodes[each as number]))
      throw new MeshFault('a node is named that does not exist');
    return value as number[];
  };
  const children = new Set(nodes.flatMap((node) => list(node?.children)));
  const scene = json.scenes?.[json.scene ?? 0];
  const roots = scene ? list(scene.nodes) : nodes.map((_, i) => i).filter((i) => !children.has(i));
  const open: { index: number; at: Placement; above: ReadonlySet<number> }[] = roots
    .map((index) => ({ index, at: UNPLACED, above: new Set<number>() }))
    .reverse();
  let visited = 0;
  for (let next = open.pop(); next; next = open.pop()) {
    const node = nodes[next.index]!;
    if (next.above.has(next.index)) throw new MeshFault(`node ${next.index} hangs on itself`);
    if (++visited > LIMITS.copies || next.above.size > LIMITS.depth)
      throw new MeshFault('the file repeats its nodes beyond all measure');
    const at = placed(next.at, placementOf(node));
    visit(node, at);
    const inside = list(node.children);
    if (inside.length > 0) {
      const above = new Set(next.above).add(next.index);
      for (let i = inside.length - 1; i >= 0; i--) open.push({ index: inside[i]!, at, above });
    }
  }
}

function numbersOf(value: unknown, length: number, otherwise: readonly number[]): readonly number[] {
  if (value === undefined) return otherwise;
  if (!Array.isArray(value) || value.length !== length || value.some((each) => !Number.isFinite(each)))
    throw new MeshFault('a node has a placement that is none');
  return value as number[];
}

/** A node's own placement: its matrix (4 × 4 by columns), or shift, turn (a unit quaternion x, y, z, w) and scale. */
function placementOf(node: GltfNode): Placement {
  if (node.matrix !== undefined) {
    const m = numbersOf(node.matrix, 16, []);
    return [0, 1, 2, 4, 5, 6, 8, 9, 10, 12, 13, 14].map((i) => m[i]!);
  }
  const [tx, ty, tz] = numbersOf(node.translation, 3, [0, 0, 0]) as [number, number, number];
  const [x, y, z, w] = numbersOf(node.rotation, 4, [0, 0, 0, 1]) as [number, number, number, number];
  const [sx, sy, sz] = numbersOf(node.scale, 3, [1, 1, 1]) as [number, number, number];
  return [
    (1 - 2 * (y * y + z * z)) * sx,
    2 * (x * y + z * w) * sx,
    2 * (x * z - y * w) * sx,
    2 * (x * y - z * w) * sy,
    (1 - 2 * (x * x + z * z)) * sy,
    2 * (y * z + x * w) * sy,
    2 * (x * z + y * w) * sz,
    2 * (y * z - x * w) * sz,
    (1 - 2 * (x * x + y * y)) * sz,
    tx,
    ty,
    tz,
  ];
}

function readPrimitive(primitive: GltfPrimitive, data: GltfData, warnings: Set<string>): Part[] {
  const mode = primitive.mode ?? TRIANGLES;
  if (![TRIANGLES, STRIP, FAN].includes(mode)) {
    warnings.add('points and lines in the file were left out');
    return [];
  }
  if (primitive.extensions?.['KHR_draco_mesh_compression'])
    throw new MeshFault('the triangles are packed (KHR_draco_mesh_compression): save the file without packing');
  if ((primitive.targets?.length ?? 0) > 0)
    warnings.add('the model can change its shape; it is measured as it was modelled');
  const place = primitive.attributes?.['POSITION'];
  if (place === undefined) return [];
  const positions = data.positions(place);
  const count = positions.length / 3;
  const corners =
    primitive.indices === undefined
      ? Uint32Array.from({ length: count }, (_, i) => i)
      : data.indices(primitive.indices);
  const beyond = corners.findIndex((vertex) => vertex >= count);
  if (beyond >= 0) throw new MeshFault(`a triangle names the vertex ${corners[beyond]}, but there are ${count}`);
  return [{ positions, triangles: mode === TRIANGLES ? whole(corners, warnings) : unrolled(corners, mode === FAN) }];
}

function whole(corners: Uint32Array, warnings: Set<string>): Uint32Array {
  const rest = corners.length % 3;
  if (rest === 0) return corners;
  warnings.add('corners after the last whole triangle were left out');
  return corners.slice(0, corners.length - rest);
}

/** The triangles of a strip, every other one turned, or of a fan. */
function unrolled(corners: Uint32Array, fan: boolean): Uint32Array {
  const triangles = new Uint32Array(3 * Math.max(0, corners.length - 2));
  for (let i = 0; i + 2 < corners.length; i++) {
    const [a, b, c] = fan ? [0, i + 1, i + 2] : i % 2 === 0 ? [i, i + 1, i + 2] : [i + 1, i, i + 2];
    triangles.set([corners[a!]!, corners[b!]!, corners[c!]!], 3 * i);
  }
  return triangles;
}
