import { positive, within } from '../units/figure.ts';
import { HOUR_MIN } from '../units/instant.ts';

/** Welding and chasing a seam, and chasing a surface: the default route's figures, until the shop has its own. */
export const SEAM_HOURS_PER_M = 6;
export const CHASING_HOURS_PER_M2 = 15;
const JOIN_HOURS = 4;
const CHASING_HOURS_PER_KG23 = 1.5;

/**
 * Minutes to knock a tree out, blast it, cut its casts off and weigh them: 15, 10 a cast and 1.5 a kilogram; undefined where
 * nobody knows the metal.
 */
export const knockOutMinutes = (casts: number, metalKg: number | null): number | undefined =>
  metalKg === null ? undefined : Math.round(15 + 10 * casts + 1.5 * within('metal in the tree', metalKg, 0, 1e6));

/** Minutes to join a section: 6 h a metre of seam; 4 h where no seam is given. */
export const joinMinutes = (seamM: number | null): number =>
  Math.round((seamM === null ? JOIN_HOURS : positive('seam', seamM) * SEAM_HOURS_PER_M) * HOUR_MIN);

/**
 * Minutes to chase the metal: the larger of 15 h/m² of surface and 1.5 h × kg^⅔, so that a small heavy piece is not done
 * in the time of its skin; undefined where neither is known.
 *
 * @example
 * chasingMinutes(470, 3.2); // 195: the skin alone would say 42
 */
export function chasingMinutes(areaCm2: number | null, kg: number | null): number | undefined {
  const bySkin = areaCm2 === null ? 0 : (positive('area', areaCm2) / 10_000) * CHASING_HOURS_PER_M2;
  const byWeight = kg === null ? 0 : CHASING_HOURS_PER_KG23 * positive('weight', kg) ** (2 / 3);
  return areaCm2 === null && kg === null ? undefined : Math.round(Math.max(bySkin, byWeight) * HOUR_MIN);
}
