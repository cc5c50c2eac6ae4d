import { positive } from '../units/figure.ts';

/** Coats of a usual patina; its minutes count for so many. */
const USUAL_COATS = 4;
const SET_UP_MIN = 60;
const MIN_PER_M2 = 240;

/**
 * Hands-on minutes of a patina: 60 to clean, heat and rub back, and 240 min/m² for four coats; undefined where the surface is
 * not known. The default route's figures, until the shop has its own.
 */
export const patinaMinutes = (areaCm2: number | null, coats = USUAL_COATS): number | undefined =>
  areaCm2 === null
    ? undefined
    : Math.round(SET_UP_MIN + ((positive('area', areaCm2) / 10_000) * MIN_PER_M2 * coats) / USUAL_COATS);
