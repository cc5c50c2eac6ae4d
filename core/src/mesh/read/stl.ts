import { MeshFault, step } from '../fault.ts';
import type { Watch } from '../fault.ts';
import { LIMITS } from '../limits.ts';
import { Welder } from '../weld.ts';
import { TOO_MANY, checkCoordinates } from './collect.ts';
import type { FileMesh } from './file.ts';
import { readTextStl } from './stl-text.ts';

const HEAD = 84;
const RECORD = 50;

/**
 * Reads an STL file. Whether it is binary is told by its length, not by its first word: many a binary file begins with
 * "solid". Bytes after the last triangle, fewer than one, are left out with a warning.
 * @throws MeshFault where its length and its count differ, or a coordinate is no number
 */
export function readStl(bytes: Uint8Array, watch?: Watch): FileMesh {
  if (looksLikeText(bytes)) return readTextStl(bytes, watch);
  if (bytes.length < HEAD)
    throw new MeshFault(`an STL file has at least ${HEAD} bytes, this one ${bytes.length}: it is cut off`);
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const said = view.getUint32(80, true);
  const held = Math.floor((bytes.length - HEAD) / RECORD);
  const rest = bytes.length - HEAD - held * RECORD;
  if (said > held)
    throw new MeshFault(`the file says ${said} triangles and holds ${held}: it is cut off, or no STL file`);
  if (said < held) throw new MeshFault(`the file says ${said} triangles and holds ${held}: one of the two is wrong`);
  if (said === 0) throw new MeshFault('the file holds no triangle');
  if (said > LIMITS.triangles) throw new MeshFault(TOO_MANY);
  return {
    format: 'STL',
    ...readRecords(bytes, said, watch),
    up: 'z',
    warnings: rest > 0 ? [`${rest} bytes after the last triangle were left out`] : [],
  };
}

/** Text only where it says "solid" and the length does not fit a binary file. */
function looksLikeText(bytes: Uint8Array): boolean {
  const fits =
    bytes.length >= HEAD &&
    new DataView(bytes.buffer, bytes.byteOffset).getUint32(80, true) === (bytes.length - HEAD) / RECORD;
  if (fits) return false;
  const start = bytes[0] === 0xef ? 3 : 0;
  const head = String.fromCharCode(...bytes.subarray(start, start + 512)).trimStart();
  if (!/^solid\b/i.test(head)) return false;
  // A cut-off binary file that begins with "solid" has zero bytes within its first triangles.
  return /\bfacet\b|\bendsolid\b/i.test(head) || !bytes.subarray(0, 1024).includes(0);
}

/** The corners of all triangles, welded as they come. */
function readRecords(bytes: Uint8Array, count: number, watch: Watch | undefined) {
  const welder = new Welder(count / 2 + 64);
  const triangles = new Uint32Array(3 * count);
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const most = LIMITS.coordinate;
  for (let i = 0; i < count; i++) {
    if ((i & 0x3ffff) === 0) step(watch, i / count, 'reading triangles');
    for (let corner = 0; corner < 3; corner++) {
      const at = HEAD + RECORD * i + 12 * (corner + 1);
      const x = view.getFloat32(at, true);
      const y = view.getFloat32(at + 4, true);
      const z = view.getFloat32(at + 8, true);
      // Looked at here, and told about there: a call for each of millions of corners costs as much as reading them.
      if (!(Math.abs(x) <= most && Math.abs(y) <= most && Math.abs(z) <= most))
        checkCoordinates(x, y, z, () => `triangle ${i + 1}`);
      triangles[3 * i + corner] = welder.add(x, y, z);
    }
  }
  return { positions: welder.positions.slice(0, 3 * welder.count), triangles };
}
