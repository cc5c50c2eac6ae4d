import { Unzip, UnzipInflate } from 'fflate';
import { MeshFault } from '../fault.ts';
import { LIMITS } from '../limits.ts';
import { Crc32, listZip } from './zip-directory.ts';

/** Small steps: a trap makes a thousand times as much of each. */
const CHUNK = 1 << 13;

/** Takes a file out of a zip as it is unpacked, a piece at a time. */
export type Taker = (piece: Uint8Array, last: boolean) => void;

/**
 * Goes through a zip and hands each wanted file to its taker in small pieces, so that nothing has to be held as a whole.
 * A file that says it grows out of all proportion is a trap and is refused at once, one that grows beyond what it says
 * as soon as it does. What was unpacked is held against the check sum that the zip gives for it.
 * @param wanted the taker of a file by its name, or nothing to pass it over
 * @returns the names of all files
 * @throws MeshFault where the zip is damaged, locked or a trap
 */
export function throughZip(bytes: Uint8Array, wanted: (name: string) => Taker | undefined): string[] {
  const files = listZip(bytes);
  const names: string[] = [];
  let fault: unknown;
  let begun = 0;
  let ended = 0;
  const zip = new Unzip((file) => {
    names.push(file.name);
    const take = wanted(file.name);
    if (!take) return;
    begun++;
    let unpacked = 0;
    const listed = files.get(file.name);
    if (!listed) throw new MeshFault(`"${file.name}" inside the package is missing in its list`);
    if (
      listed.unpacked > LIMITS.unpackedBytes ||
      (listed.unpacked > LIMITS.smallBytes &&
        listed.unpacked > LIMITS.packing * Math.max(1, Math.min(listed.packed, bytes.length)))
    )
      throw new MeshFault(`"${file.name}" inside the package grows out of all proportion when it is unpacked`);
    const sum = new Crc32();
    file.ondata = (error, piece, last) => {
      if (fault !== undefined) return;
      try {
        if (error) throw new MeshFault(`the file "${file.name}" inside the package is damaged`);
        unpacked += piece.length;
        if (unpacked > listed.unpacked)
          throw new MeshFault(`"${file.name}" inside the package is larger than the package says`);
        sum.add(piece);
        if (last && sum.value !== listed.sum) throw new MeshFault(`"${file.name}" inside the package is damaged`);
        take(piece, last);
        if (last) ended++;
      } catch (caught) {
        fault = caught;
        throw caught;
      }
    };
    file.start();
  });
  zip.register(UnzipInflate);
  try {
    for (let at = 0; at < bytes.length; at += CHUNK)
      zip.push(bytes.subarray(at, Math.min(bytes.length, at + CHUNK)), at + CHUNK >= bytes.length);
  } catch (error) {
    throw asFault(fault ?? error);
  }
  if (fault !== undefined) throw asFault(fault);
  if (names.length === 0) throw new MeshFault('the file is no package (zip) or is damaged');
  if (ended < begun) throw new MeshFault('the package (zip) is cut off');
  return names;
}

const asFault = (error: unknown): unknown =>
  error instanceof Error && error.constructor !== Error
    ? error
    : new MeshFault('the package (zip) is damaged or cut off');
