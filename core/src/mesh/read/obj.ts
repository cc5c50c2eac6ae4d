import { MeshFault, step } from '../fault.ts';
import type { Watch } from '../fault.ts';
import { LIMITS } from '../limits.ts';
import { weldIndexed } from '../weld.ts';
import { Collector } from './collect.ts';
import type { FileMesh } from './file.ts';
import { Words } from './words.ts';

/** Curved surfaces, which are not read: they would leave holes. */
const CURVES = ['curv', 'curv2', 'surf', 'bmat', 'cstype'];

/**
 * Reads an OBJ file: `v` and `f` lines, polygons of any number of corners, indices from the end, texture and normal
 * indices passed over. Everything else says nothing about the shape.
 * @throws MeshFault naming the line where a corner does not exist or a number is none
 */
export function readObj(bytes: Uint8Array, watch?: Watch): FileMesh {
  const words = new Words(bytes);
  const mesh = new Collector();
  /** Faces that name vertices given further down. */
  const later: { corners: number[]; line: number }[] = [];
  let curves = 0;
  let lines = 0;
  while (words.next()) {
    if ((lines++ & 0xffff) === 0) step(watch, words.at / bytes.length, 'reading triangles');
    if (words.is('v')) {
      const { line } = words;
      const part = () => {
        if (!words.nextOnLine()) throw new MeshFault(`the vertex in line ${line} has fewer than three numbers`);
        return words.asNumber();
      };
      mesh.vertex(part(), part(), part(), () => `line ${line}`);
    } else if (words.is('f') || words.is('fo')) {
      const corners = readCorners(words, mesh.vertexCount);
      if (corners.every((corner) => corner < mesh.vertexCount)) mesh.polygon(corners);
      else later.push({ corners, line: words.line });
    } else if (CURVES.some((word) => words.is(word))) curves++;
    while (words.nextOnLine());
  }
  for (const { corners, line } of later) {
    const beyond = corners.find((corner) => corner >= mesh.vertexCount);
    if (beyond !== undefined)
      throw new MeshFault(`line ${line} names the vertex ${beyond + 1}, but the file has ${mesh.vertexCount}`);
    mesh.polygon(corners);
  }
  if (mesh.triangles.length === 0)
    throw new MeshFault(
      mesh.vertexCount > 0
        ? 'the file holds points and no triangle: it is a point cloud'
        : 'the file holds no triangle',
    );
  return {
    format: 'OBJ',
    ...weldIndexed(mesh.positions.done(), mesh.triangles.done()),
    up: 'z',
    warnings: [
      ...(curves > 0 ? ['curved surfaces in the file were left out; only its polygons were read'] : []),
      ...(mesh.lines > 0 ? [`${mesh.lines} faces with fewer than three corners were left out`] : []),
    ],
  };
}

/** The corners of a face, as vertex numbers from 0; those counted from the end count from where the face stands. */
function readCorners(words: Words, sofar: number): number[] {
  const corners: number[] = [];
  while (words.nextOnLine()) {
    if (words.bytes[words.from] === 35) {
      words.skipLine();
      break;
    }
    const index = cornerIndex(words);
    const vertex = index > 0 ? index - 1 : sofar + index;
    if (index === 0 || vertex < 0)
      throw new MeshFault(`line ${words.line} names the vertex ${index}, but ${sofar} vertices stand before it`);
    corners.push(vertex);
    if (corners.length > LIMITS.corners) throw new MeshFault(`the face in line ${words.line} has too many corners`);
  }
  return corners;
}

/** The vertex number of `7`, `-2`, `7/1`, `7//3` or `7/1/3`. */
function cornerIndex(words: Words): number {
  const { bytes, from, to } = words;
  let at = from;
  const negative = bytes[at] === 45;
  if (negative || bytes[at] === 43) at++;
  let value = 0;
  const first = at;
  for (; at < to && bytes[at]! >= 48 && bytes[at]! <= 57 && value < 1e10; at++) value = value * 10 + bytes[at]! - 48;
  if (at === first || (at < to && bytes[at] !== 47))
    throw new MeshFault(`line ${words.line} has "${words.text()}" where a vertex number is expected`);
  return negative ? -value : value;
}
