import { MeshFault, step } from '../fault.ts';
import type { Watch } from '../fault.ts';
import { LIMITS } from '../limits.ts';
import { weldIndexed } from '../weld.ts';
import { Collector, TOO_MANY } from './collect.ts';
import type { FileMesh } from './file.ts';
import { readPlyHead } from './ply-head.ts';
import type { PlyElement, PlyHead, Scalar } from './ply-head.ts';
import { Words } from './words.ts';

const SIZES: Readonly<Record<Scalar, number>> = { i1: 1, u1: 1, i2: 2, u2: 2, i4: 4, u4: 4, f4: 4, f8: 8 };

/** Where the numbers of a PLY file come from, as text or as bytes. */
interface Source {
  next(kind: Scalar): number;
  where(): string;
  /** The most rows of an element that what is left can hold: a lying count is found before memory is asked for. */
  holds(element: PlyElement): number;
  share(): number;
  /** Whether something is left after the last row. */
  rest(): boolean;
}

/**
 * Reads a PLY file, as text or as bytes of either order. Extra properties and elements are passed over.
 * @throws MeshFault where the head is wrong, the file is shorter than it says, or a corner does not exist
 */
export function readPly(bytes: Uint8Array, watch?: Watch): FileMesh {
  const head = readPlyHead(bytes);
  const source = head.kind === 'ascii' ? textSource(bytes, head) : byteSource(bytes, head);
  const mesh = new Collector(0, 0);
  for (const element of head.elements) {
    if (element.count > source.holds(element))
      throw new MeshFault(`the file says ${element.count} of "${element.name}" and ends before: it is cut off`);
    if (element.count > 3 * LIMITS.triangles) throw new MeshFault(TOO_MANY);
    readElement(element, source, mesh, watch);
  }
  if (mesh.triangles.length === 0)
    throw new MeshFault(
      mesh.vertexCount > 0
        ? 'the file holds points and no triangle: it is a point cloud'
        : 'the file holds no triangle',
    );
  const count = mesh.vertexCount;
  const triangles = mesh.triangles.done();
  // Faces may stand before the vertices.
  const beyond = triangles.findIndex((vertex) => vertex >= count);
  if (beyond >= 0) throw new MeshFault(`a face names the vertex ${triangles[beyond]}, but there are ${count}`);
  return {
    format: 'PLY',
    ...weldIndexed(mesh.positions.done(), triangles),
    up: 'z',
    warnings: [
      ...(source.rest() ? ['what follows the last element was left out'] : []),
      ...(mesh.lines > 0 ? [`${mesh.lines} faces with fewer than three corners were left out`] : []),
    ],
  };
}

function readElement(element: PlyElement, source: Source, mesh: Collector, watch: Watch | undefined): void {
  const { name, properties } = element;
  const column = (wanted: string) => properties.findIndex((property) => property.name === wanted);
  const [x, y, z] = [column('x'), column('y'), column('z')];
  const corners = properties.findIndex(({ name: each }) => each === 'vertex_indices' || each === 'vertex_index');
  const isVertex = name === 'vertex';
  const isFace = name === 'face' && corners >= 0;
  if (isVertex && (x < 0 || y < 0 || z < 0)) throw new MeshFault('the vertices have no x, y and z');
  if (name === 'tristrips') throw new MeshFault('the file holds its triangles in strips: save it with plain faces');
  const row = new Float64Array(properties.length);
  const list: number[] = [];
  for (let i = 0; i < element.count; i++) {
    if ((i & 0xffff) === 0) step(watch, source.share(), isFace ? 'reading triangles' : 'reading vertices');
    for (let k = 0; k < properties.length; k++) {
      const { kind, countKind } = properties[k]!;
      if (countKind === undefined) {
        row[k] = source.next(kind);
        continue;
      }
      const length = source.next(countKind);
      if (!Number.isInteger(length) || length < 0 || length > LIMITS.corners)
        throw new MeshFault(`${source.where()}: "${name}" ${i + 1} has a list of ${length} entries`);
      if (k === corners) list.length = 0;
      for (let n = 0; n < length; n++) {
        const value = source.next(kind);
        if (k === corners) list.push(value);
      }
    }
    if (isVertex) mesh.vertex(row[x]!, row[y]!, row[z]!, () => `vertex ${i + 1}`);
    else if (isFace) {
      const bad = list.find((vertex) => !Number.isInteger(vertex) || vertex < 0 || vertex > 0xfffffffe);
      if (bad !== undefined) throw new MeshFault(`face ${i + 1} names the vertex ${bad}`);
      // Polygons are cut in their own plane, for which their corners must be known.
      if (list.length > 3 && list.some((vertex) => vertex >= mesh.vertexCount))
        throw new MeshFault(`face ${i + 1} names a vertex that does not stand before it`);
      mesh.polygon(list);
    }
  }
}

function textSource(bytes: Uint8Array, head: PlyHead): Source {
  const words = new Words(bytes, head.end);
  words.line = head.lines + 1;
  return {
    next: () => words.number(),
    where: () => `line ${words.line}`,
    holds: ({ properties }) => (bytes.length - words.at + 1) / (2 * Math.max(1, properties.length)),
    share: () => words.at / bytes.length,
    rest: () => words.next(),
  };
}

function byteSource(bytes: Uint8Array, head: PlyHead): Source {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const little = head.kind === 'little';
  let at = head.end;
  const read: Readonly<Record<Scalar, (at: number) => number>> = {
    i1: (from) => view.getInt8(from),
    u1: (from) => view.getUint8(from),
    i2: (from) => view.getInt16(from, little),
    u2: (from) => view.getUint16(from, little),
    i4: (from) => view.getInt32(from, little),
    u4: (from) => view.getUint32(from, little),
    f4: (from) => view.getFloat32(from, little),
    f8: (from) => view.getFloat64(from, little),
  };
  return {
    next: (kind) => {
      const from = at;
      at += SIZES[kind];
      if (at > bytes.length) throw new MeshFault('the file ends before its last face: it is cut off');
      return read[kind](from);
    },
    where: () => `byte ${at}`,
    holds: ({ properties }) =>
      (bytes.length - at) /
      Math.max(
        1,
        properties.reduce((sum, { kind, countKind }) => sum + SIZES[countKind ?? kind], 0),
      ),
    share: () => at / bytes.length,
    rest: () => at < bytes.length,
  };
}
