import { positive } from '../units/figure.ts';

/** Two halves, and three coats of brushed rubber, until the shop says otherwise. */
const USUAL_PARTS = 2;
const USUAL_COATS = 3;
const SET_UP_MIN = 120;
const PART_MIN = 60;
const COAT_MIN_PER_M2 = 90;

/**
 * Hands-on minutes to make a mould: 120, 60 a part, and 90 min/m² a coat of rubber; undefined where the area of the original
 * is not known. The default route's figures, until the shop has its own.
 */
export function mouldMinutes(
  areaCm2: number | null,
  { parts = USUAL_PARTS, coats = USUAL_COATS } = {},
): number | undefined {
  if (areaCm2 === null) return undefined;
  return Math.round(SET_UP_MIN + PART_MIN * parts + (positive('area', areaCm2) / 10_000) * coats * COAT_MIN_PER_M2);
}
