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
    return READERS[kindOf(bytes, short)](bytes, watch);
  } catch (error) {
    if (error instanceof MeshFault) throw new MeshFault(`${short}: ${error.message}`);
    // Memory that could not be had: the only other thing that a file can bring about.
    if (error instanceof RangeError) throw new MeshFault(`${short}: the file asks for more memory than there is`);
    throw error;
  }
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
