/** Random bytes, also on addresses where the browser offers no `randomUUID`. */
function uuid(bytes: Uint8Array, version: number): string {
  bytes[6] = (bytes[6]! & 0x0f) | (version << 4);
  bytes[8] = (bytes[8]! & 0x3f) | 0x80;
  const hex = Array.from(bytes, (byte) => byte.toString(16).padStart(2, '0')).join('');
  return [hex.slice(0, 8), hex.slice(8, 12), hex.slice(12, 16), hex.slice(16, 20), hex.slice(20)].join('-');
}

/** A key for a form, made when it opens: the same form sent twice is written once. */
export const newKey = (): string => uuid(crypto.getRandomValues(new Uint8Array(16)), 4);

/** An id for a new record: UUIDv7, its first 48 bits the time. */
export function newId(now = Date.now()): string {
  const bytes = crypto.getRandomValues(new Uint8Array(16));
  for (let i = 0; i < 6; i++) bytes[i] = Math.floor(now / 2 ** (8 * (5 - i))) & 0xff;
  return uuid(bytes, 7);
}
