import type { Figure } from '../units/figure.ts';
import { positive, within } from '../units/figure.ts';
import { cm2, kg, mm, quantity } from '../units/quantity.ts';
import type { Words } from '../units/words.ts';
import { NOTHING, joined, say } from '../units/words.ts';

/** Fired ceramic shell, g/cm³. */
const SHELL_DENSITY = 1.75;
/** Wall of one coat in mm where the shop has not measured its own (0.6–1.2). */
export const DEFAULT_COAT_MM = 0.9;
/** What one person lifts, kg; local rules decide. */
export const DEFAULT_LIFT_LIMIT_KG = 25;

/** Weight of the shell in kg: area × wall × 1.75 g/cm³, the wall being coats × mm a coat. */
export function shellWeight(areaCm2: number, coats: number, coatMm = DEFAULT_COAT_MM): Figure {
  const wallMm = within('coats', coats, 0, 60) * positive('wall a coat', coatMm);
  const value = (positive('area', areaCm2) * (wallMm / 10) * SHELL_DENSITY) / 1000;
  return {
    value,
    unit: 'kg',
    plusMinus: value * 0.25,
    source: 'estimated',
    inWords: say`${cm2(areaCm2)} × ${mm(wallMm, 1)} (${coats} coats) × ${quantity(SHELL_DENSITY, 'g/cm3')}`,
    inputs: { area: cm2(areaCm2), coats, 'a coat': mm(coatMm) },
  };
}

/** A weight somebody has to carry, against the limit for one person. */
export interface Lift {
  readonly weight: Figure;
  readonly tooHeavy: boolean;
  /** In shop words: empty below the limit. */
  readonly inWords: Words;
}

/** Adds up what hangs together (wax + shell when dipping, shell + metal after the pour) and compares it with the limit. */
export function lift(parts: Readonly<Record<string, number>>, limitKg = DEFAULT_LIFT_LIMIT_KG): Lift {
  const value = Object.values(parts).reduce((sum, each) => sum + within('weight', each, 0, 1e6), 0);
  const tooHeavy = value > positive('lift limit', limitKg);
  const names = Object.keys(parts);
  return {
    weight: {
      value,
      unit: 'kg',
      source: 'estimated',
      inWords: joined(
        names.map((name) => say`${name} ${kg(parts[name]!)}`),
        ' + ',
      ),
      inputs: Object.fromEntries(names.map((name) => [name, kg(parts[name]!)])),
    },
    tooHeavy,
    inWords: tooHeavy
      ? say`${names.join(' and ')}: ${kg(value, 0)}, over the lift limit of ${kg(limitKg, 0)}: two people or a hoist; local rules decide`
      : NOTHING,
  };
}
