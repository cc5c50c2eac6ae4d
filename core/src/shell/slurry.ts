import type { Figure } from '../units/figure.ts';
import { positive, within } from '../units/figure.ts';
import { cm2, kg } from '../units/quantity.ts';
import { say } from '../units/words.ts';

/** Slurry that a coat takes up, kg/m², from lean to rich. Source: handbook 2.4. */
const SLURRY_KG_A_M2 = { least: 0.9, most: 1.3 } as const;
const CM2_A_M2 = 1e4;

/** The slurry that a surface takes in so many coats, kg: for the tank, before it is dipped. */
export function slurryFor(areaCm2: number, coats: number): Figure {
  const m2 = (positive('area', areaCm2) * within('coats', coats, 1, 60)) / CM2_A_M2;
  const { least, most } = SLURRY_KG_A_M2;
  return {
    value: (m2 * (least + most)) / 2,
    unit: 'kg',
    plusMinus: (m2 * (most - least)) / 2,
    source: 'estimated',
    inWords: say`${cm2(areaCm2)} × ${coats} coats × ${kg(least)} to ${kg(most)} a square metre`,
    inputs: { area: cm2(areaCm2), coats },
  };
}
