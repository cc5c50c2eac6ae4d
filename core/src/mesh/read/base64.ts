import { MeshFault } from '../fault.ts';

const LETTERS = 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/';
const VALUES = new Int16Array(128).fill(-1);
for (let i = 0; i < 64; i++) VALUES[LETTERS.charCodeAt(i)] = i;
VALUES['-'.charCodeAt(0)] = 62;
VALUES['_'.charCodeAt(0)] = 63;

/** The bytes of a base64 text (RFC 4648, either alphabet). @throws MeshFault where a letter is none of them */
export function fromBase64(text: string): Uint8Array {
  const end = text.replace(/=+$/, '').length;
  const bytes = new Uint8Array(Math.floor((end * 3) / 4));
  let bits = 0;
  let held = 0;
  let at = 0;
  for (let i = 0; i < end; i++) {
    const value = VALUES[text.charCodeAt(i)] ?? -1;
    if (value < 0) throw new MeshFault('the data written inside the file is damaged');
    held = ((held << 6) | value) & 0xffffff;
    bits += 6;
    if (bits >= 8) {
      bits -= 8;
      if (at < bytes.length) bytes[at++] = (held >> bits) & 0xff;
    }
  }
  return bytes;
}
