import { strFromU8 } from 'fflate';
import { MeshFault } from '../fault.ts';

const [END, ENTRY] = [0x06054b50, 0x02014b50];
const END_BYTES = 22;
const LONGEST_COMMENT = 0xffff;
const FULL = 0xffffffff;

/** What the directory of a zip says of a file in it. */
export interface Listed {
  readonly sum: number;
  /** Bytes when it is unpacked, and as it lies there. */
  readonly unpacked: number;
  readonly packed: number;
}

/**
 * The files in a zip by name, from the directory at its end (PKWARE APPNOTE 4.3.12, 4.3.16 and 4.5.3).
 * @throws MeshFault where there is no directory: the file is cut off
 */
export function listZip(bytes: Uint8Array): Map<string, Listed> {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  let end = bytes.length - END_BYTES;
  const first = Math.max(0, end - LONGEST_COMMENT);
  while (end >= first && view.getUint32(end, true) !== END) end--;
  if (end < first) throw new MeshFault('the file is no package (zip), or is cut off');
  const files = new Map<string, Listed>();
  let at = view.getUint32(end + 16, true);
  // In a package above 4 GB the place lies elsewhere; such files are not read.
  for (let count = view.getUint16(end + 10, true); count > 0; count--) {
    if (at + 46 > end || view.getUint32(at, true) !== ENTRY) throw new MeshFault('the package (zip) is damaged');
    const [name, extra, comment] = [28, 30, 32].map((offset) => view.getUint16(at + offset, true)) as [
      number,
      number,
      number,
    ];
    const next = at + 46 + name + extra + comment;
    if (next > end) throw new MeshFault('the package (zip) is damaged');
    files.set(strFromU8(bytes.subarray(at + 46, at + 46 + name)), {
      sum: view.getUint32(at + 16, true),
      ...sizesAt(view, at, at + 46 + name, extra),
    });
    at = next;
  }
  return files;
}

/** A file's sizes; where 32 bits are full they stand in the extra field 1, the unpacked one first. */
function sizesAt(view: DataView, at: number, from: number, length: number): { unpacked: number; packed: number } {
  let [packed, unpacked] = [view.getUint32(at + 20, true), view.getUint32(at + 24, true)];
  for (let field = from; field + 4 <= from + length; field += 4 + view.getUint16(field + 2, true)) {
    if (view.getUint16(field, true) !== 1) continue;
    let place = field + 4;
    const wide = (value: number): number => {
      if (value !== FULL || place + 8 > from + length) return value;
      place += 8;
      return view.getUint32(place - 8, true) + view.getUint32(place - 4, true) * 2 ** 32;
    };
    unpacked = wide(unpacked);
    packed = wide(packed);
  }
  return { unpacked, packed };
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
