import { MeshFault } from '../fault.ts';

/** A kind of number: signed, unsigned or floating, and its bytes. */
export type Scalar = 'i1' | 'u1' | 'i2' | 'u2' | 'i4' | 'u4' | 'f4' | 'f8';

const KINDS: Readonly<Record<string, Scalar>> = {
  char: 'i1',
  int8: 'i1',
  uchar: 'u1',
  uint8: 'u1',
  short: 'i2',
  int16: 'i2',
  ushort: 'u2',
  uint16: 'u2',
  int: 'i4',
  int32: 'i4',
  uint: 'u4',
  uint32: 'u4',
  float: 'f4',
  float32: 'f4',
  double: 'f8',
  float64: 'f8',
};

export interface PlyElement {
  readonly name: string;
  readonly count: number;
  /** A property with a `countKind` is a list. */
  readonly properties: { readonly name: string; readonly kind: Scalar; readonly countKind?: Scalar }[];
}

export interface PlyHead {
  readonly kind: 'ascii' | 'little' | 'big';
  readonly elements: readonly PlyElement[];
  /** Where the head ends: the first byte of the data, and the lines so far. */
  readonly end: number;
  readonly lines: number;
}

const LONGEST_HEAD = 1_000_000;

/** Reads the head of a PLY file. @throws MeshFault naming the line that is wrong */
export function readPlyHead(bytes: Uint8Array): PlyHead {
  const elements: PlyElement[] = [];
  let kind: PlyHead['kind'] | undefined;
  let at = 0;
  for (let line = 1; at < Math.min(bytes.length, LONGEST_HEAD); line++) {
    let to = at;
    while (to < bytes.length && bytes[to] !== 10 && bytes[to] !== 13) to++;
    const text = String.fromCharCode(...bytes.subarray(at, Math.min(to, at + 1000))).trim();
    at = to + (bytes[to] === 13 && bytes[to + 1] === 10 ? 2 : 1);
    const words = text.split(/\s+/);
    const [what, first, second] = words;
    const wrong = () => new MeshFault(`line ${line} of the head is not understood: "${text.slice(0, 60)}"`);
    if (line === 1) {
      if (what !== 'ply') throw new MeshFault('the file does not begin with "ply"');
    } else if (what === 'format') {
      kind = ({ ascii: 'ascii', binary_little_endian: 'little', binary_big_endian: 'big' } as const)[first ?? ''];
      if (!kind) throw wrong();
    } else if (what === 'element') {
      const count = Number(second);
      if (!first || !/^\d+$/.test(second ?? '') || !Number.isSafeInteger(count)) throw wrong();
      elements.push({ name: first, count, properties: [] });
    } else if (what === 'property') {
      const list = first === 'list';
      const itemKind = KINDS[(list ? words[3] : first) ?? ''];
      const countKind = list ? KINDS[second ?? ''] : undefined;
      const name = list ? words[4] : second;
      const element = elements.at(-1);
      if (!itemKind || !name || !element || (list && !countKind)) throw wrong();
      element.properties.push({ name, kind: itemKind, ...(countKind ? { countKind } : {}) });
    } else if (what === 'end_header') {
      if (!kind) throw new MeshFault('the head does not say the format of the data');
      return { kind, elements, end: at, lines: line };
    } else if (what !== 'comment' && what !== 'obj_info' && what !== '') throw wrong();
  }
  throw new MeshFault('the head does not end: the file is cut off');
}
