/** A direction, not necessarily of length 1. */
export type Direction = readonly [number, number, number];
