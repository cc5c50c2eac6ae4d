import type { FileKind } from '../records/files.ts';
import { FILE_LIMITS } from '../records/files.ts';
import { plain } from '../units/quantity.ts';
import type { Text } from '../units/words.ts';
import { say } from '../units/words.ts';

/** What a file turned out to be, or why it is not taken. */
export type FoundKind =
  { readonly kind: FileKind; readonly mime: string; readonly called: string } | { readonly refused: Text };

/** So many first bytes tell what a file is. */
export const HEAD_BYTES = 4096;

const picture = (mime: string, called: string) => ({ kind: 'picture', mime, called }) as const;
const model = (mime: string, called: string) => ({ kind: 'model', mime, called }) as const;

/**
 * What a file is by its first bytes; its name only tells apart what has no mark of its own (STL, OBJ).
 *
 * @example
 * kindOfFile(bytesOf('%PDF-1.7 …'), { name: 'otter.stl', bytes: 9000 }); // a paper: whatever its name says
 *
 * @param head the first `HEAD_BYTES` of the file, or all of a shorter one
 * @param of its name and whole length in bytes
 */
export function kindOfFile(head: Uint8Array, of: { readonly name: string; readonly bytes: number }): FoundKind {
  if (of.bytes === 0 || head.length === 0) return { refused: say`${of.name} is empty` };
  const found = marked(head) ?? unmarked(head, of);
  if (found === undefined)
    return {
      refused: say`${of.name} is nothing that is kept here: pictures (JPEG, PNG, WebP), models (STL, OBJ, PLY, 3MF, GLB) and PDFs are`,
    };
  if ('refused' in found) return found;
  const most = { picture: FILE_LIMITS.pictureBytes, model: FILE_LIMITS.modelBytes, paper: FILE_LIMITS.paperBytes };
  return of.bytes > most[found.kind] ? { refused: tooLarge(of.name, of.bytes, most[found.kind], found.kind) } : found;
}

/** What is said of a file above its kind's limit. */
export const tooLarge = (name: string, bytes: number, most: number, kind: FileKind): Text =>
  say`${name} has ${plain(bytes / 1e6, 0)} MB; a ${kind} may have ${plain(most / 1e6, 0)} MB`;

/** Kinds that begin with a mark of their own. */
function marked(head: Uint8Array): FoundKind | undefined {
  const at = (from: number, text: string) => [...text].every((letter, i) => head[from + i] === letter.charCodeAt(0));
  if (head[0] === 0xff && head[1] === 0xd8 && head[2] === 0xff) return picture('image/jpeg', 'JPEG picture');
  if (at(0, '\x89PNG\r\n')) return picture('image/png', 'PNG picture');
  if (at(0, 'RIFF') && at(8, 'WEBP')) return picture('image/webp', 'WebP picture');
  if (at(0, 'GIF8')) return picture('image/gif', 'GIF picture');
  if (at(0, 'II*\0') || at(0, 'MM\0*')) return picture('image/tiff', 'TIFF picture');
  if (at(4, 'ftyp')) {
    if (at(8, 'avif') || at(8, 'avis')) return picture('image/avif', 'AVIF picture');
    return {
      refused:
        at(8, 'hei') || at(8, 'hev') || at(8, 'mif1')
          ? 'pictures in HEIC are not read here: set the camera to JPEG (“most compatible”), or send them as JPEG'
          : 'films are not kept here: take a picture of it',
    };
  }
  if (at(0, '%PDF-')) return { kind: 'paper', mime: 'application/pdf', called: 'PDF' };
  if (at(0, 'glTF')) return model('model/gltf-binary', 'GLB model');
  if (at(0, 'PK\x03\x04')) return model('model/3mf', '3MF model');
  if (at(0, 'ply\n') || at(0, 'ply\r')) return model('application/x-ply', 'PLY model');
  return undefined;
}

/** A binary STL: 80 bytes of anything, a count, and 50 bytes for each of so many triangles. */
const STL_HEAD = 84;
const STL_TRIANGLE = 50;

/** A line of an OBJ's contents; a head that is longer than what is looked at is all remarks. */
const OBJ_LINE = /^(v|vn|vt|f|o|g|s|mtllib|usemtl)\s|^(#[^!\n][^\n]*\n|\s*\n){20}/m;

/** STL and OBJ have no mark: their name says so, and their contents must agree. */
function unmarked(
  head: Uint8Array,
  { name, bytes }: { readonly name: string; readonly bytes: number },
): FoundKind | undefined {
  const ending = /\.([a-z0-9]+)$/i.exec(name)?.[1]?.toLowerCase();
  if (ending === 'stl') {
    const text = asText(head);
    const count = head.length >= STL_HEAD ? new DataView(head.buffer, head.byteOffset).getUint32(80, true) : -1;
    const isBinary = count >= 0 && STL_HEAD + count * STL_TRIANGLE <= bytes + STL_TRIANGLE;
    if ((text !== undefined && /^\s*solid\b/.test(text)) || isBinary) return model('model/stl', 'STL model');
  }
  if (ending === 'obj' && OBJ_LINE.test(asText(head) ?? '')) return model('model/obj', 'OBJ model');
  if (ending === 'gltf' && /^\s*\{/.test(asText(head) ?? '')) return model('model/gltf+json', 'glTF model');
  return undefined;
}

/** The bytes as letters, where they are letters and nothing else. */
function asText(head: Uint8Array): string | undefined {
  if (head.some((byte) => byte === 0)) return undefined;
  let text = '';
  for (const byte of head) text += String.fromCharCode(byte);
  return text;
}
