import { positive } from '../units/figure.ts';

/** Areas are measured with tape and string: so much more is let pass. */
const AREA_SLACK = 1.1;

/**
 * The most that anything of an outer surface can weigh, kg: a solid ball of it. Of all bodies with one surface the ball
 * holds most, V = A^1.5 / (6·√π).
 *
 * @example
 * heaviest(1600, 8.36); // 58 kg: a bronze of 0.16 m² cannot weigh 60
 *
 * @param areaCm2 outer area, cm², as it was entered; a tenth more is let pass
 * @param densityGPerCm3 of what it is made of
 * @throws RangeError where either is not above zero
 * Source: isoperimetric inequality (H. A. Schwarz, 1884).
 */
export function heaviest(areaCm2: number, densityGPerCm3: number): number {
  const area = positive('area', areaCm2) * AREA_SLACK;
  return ((area ** 1.5 / (6 * Math.sqrt(Math.PI))) * positive('density', densityGPerCm3)) / 1000;
}
