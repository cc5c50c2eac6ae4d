import { strFromU8 } from 'fflate';
import { MeshFault } from '../fault.ts';

const [END, ENTRY] = [0x06054b50, 0x02014b50];
const END_BYTES = 22;
const LONGEST_COMMENT = 0xffff;

/**
 * The check sums of the files in a zip, from the directory at its end (PKWARE APPNOTE 4.3.12 and 4.3.16).
 * @throws MeshFault where there is no directory: the file is cut off
 */
export function checkSums(bytes: Uint8Array): Map<string, number> {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  let end = bytes.length - END_BYTES;
  const first = Math.max(0, end - LONGEST_COMMENT);
  while (end >= first && view.getUint32(end, true) !== END) end--;
  if (end < first) throw new MeshFault('the file is no package (zip), or is cut off');
  const sums = new Map<string, number>();
  let at = view.getUint32(end + 16, true);
  // In a package above 4 GB the place lies elsewhere; such files are not read.
  for (let count = view.getUint16(end + 10, true); count > 0; count--) {
    if (at + 46 > end || view.getUint32(at, true) !== ENTRY) throw new MeshFault('the package (zip) is damaged');
    const [name, extra, comment] = [28, 30, 32].map((offset) => view.getUint16(at + offset, true)) as [
      number,
      number,
      number,
    ];
    sums.set(strFromU8(bytes.subarray(at + 46, at + 46 + name)), view.getUint32(at + 16, true));
    at += 46 + name + extra + comment;
  }
  return sums;
}

const TABLE = Uint32Array.from({ length: 256 }, (_, i) => {
  let value = i;
  for (let bit = 0; bit < 8; bit++) value = value & 1 ? (value >>> 1) ^ 0xedb88320 : value >>> 1;
  return value;
});

/** The CRC-32 of bytes that come in pieces (ISO 3309). */
export class Crc32 {
  private state = 0xffffffff;

  add(bytes: Uint8Array): void {
    let { state } = this;
    for (let i = 0; i < bytes.length; i++) state = TABLE[(state ^ bytes[i]!) & 0xff]! ^ (state >>> 8);
    this.state = state;
  }

  get value(): number {
    return (this.state ^ 0xffffffff) >>> 0;
  }
}
