import { MeshFault } from '../fault.ts';
import type { Watch } from '../fault.ts';
import type { FileMesh } from './file.ts';
import { readGltf } from './gltf.ts';
import { readObj } from './obj.ts';
import { readPly } from './ply.ts';
import { readStl } from './stl.ts';
import { read3mf } from './three-mf.ts';

const READERS = { stl: readStl, obj: readObj, ply: readPly, '3mf': read3mf, glb: readGltf, gltf: readGltf } as const;

/** The endings of file names that are read. */
export const MODEL_ENDINGS = Object.keys(READERS);

/**
 * Reads a model file of any of the formats. What a file is is told by its first bytes where they say it, and by its
 * name otherwise. @throws MeshFault, beginning with the file's name, saying what is wrong with it
 */
export function readModel(bytes: Uint8Array, name: string, watch?: Watch): FileMesh {
  const short = name.replace(/^.*[/\\]/, '');
  if (bytes.length === 0) throw new MeshFault(`${short}: the file is empty`);
  try {
    const mesh = READERS[kindOf(bytes, short)](bytes, watch);
    if (!hasSurface(mesh))
      throw new MeshFault('all its triangles are flat lines or points: there is no surface to measure');
    return mesh;
  } catch (error) {
    if (error instanceof MeshFault) throw new MeshFault(`${short}: ${error.message}`);
    // Memory that could not be had: the only other thing that a file can bring about.
    if (error instanceof RangeError) throw new MeshFault(`${short}: the file asks for more memory than there is`);
    throw error;
  }
}

/** Whether any triangle has an area: ends with the first one that has. */
function hasSurface({ positions: p, triangles }: FileMesh): boolean {
  for (let i = 0; i < triangles.length; i += 3) {
    const [a, b, c] = [3 * triangles[i]!, 3 * triangles[i + 1]!, 3 * triangles[i + 2]!];
    const [ux, uy, uz] = [p[b]! - p[a]!, p[b + 1]! - p[a + 1]!, p[b + 2]! - p[a + 2]!];
    const [vx, vy, vz] = [p[c]! - p[a]!, p[c + 1]! - p[a + 1]!, p[c + 2]! - p[a + 2]!];
    if (uy * vz - uz * vy !== 0 || uz * vx - ux * vz !== 0 || ux * vy - uy * vx !== 0) return true;
  }
  return false;
}

function kindOf(bytes: Uint8Array, name: string): keyof typeof READERS {
  const begins = (text: string) => [...text].every((letter, i) => bytes[i] === letter.charCodeAt(0));
  const ending = /\.([a-z0-9]+)$/i.exec(name)?.[1]?.toLowerCase();
  if (begins('glTF')) return 'glb';
  if (begins('PK\x03\x04')) return '3mf';
  if (begins('ply\n') || begins('ply\r')) return 'ply';
  if (ending !== undefined && Object.hasOwn(READERS, ending)) return ending as keyof typeof READERS;
  throw new MeshFault(`this kind of file is not read; models are ${MODEL_ENDINGS.join(', ').toUpperCase()} files`);
}
