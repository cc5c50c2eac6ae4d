import { within } from '../units/figure.ts';

/** Coats where the metal height is not known. */
export const COATS_WHERE_UNKNOWN = 8;
const MOST_COATS = 20;

/**
 * How many coats a shell gets, the seal coat included: 6, and 1 more for each (begun) 100 mm of metal above 200 mm, at
 * most 20. A sensible start that the shop's own table replaces.
 * @param metalHeightMm height of metal in the shell, mm, or null where nobody knows it yet
 */
export function coatsFor(metalHeightMm: number | null): number {
  if (metalHeightMm === null) return COATS_WHERE_UNKNOWN;
  within('metal height', metalHeightMm, 0, 100_000);
  return Math.min(MOST_COATS, 6 + Math.max(0, Math.ceil((metalHeightMm - 200) / 100)));
}
