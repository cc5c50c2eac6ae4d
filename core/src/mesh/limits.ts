/** Bounds that keep a broken or hostile file from taking the machine: far above what a sculpture needs. */
export const LIMITS = {
  /** Triangles, all copies of all parts together. */
  triangles: 20_000_000,
  /** The largest coordinate in the file's own unit. */
  coordinate: 1e9,
  /** Bytes that a packed file may grow to when it is unpacked. */
  unpackedBytes: 4e9,
  /** How many times its packed size the text of a model may be, once it is above `smallBytes`. */
  packing: 100,
  smallBytes: 64e6,
  /** Components inside components, nodes inside nodes. */
  depth: 1000,
  /** Placed copies of parts. */
  copies: 200_000,
  /** Corners of one polygon. */
  corners: 100_000,
} as const;
