import { positive } from '../units/figure.ts';
import type { LearnedFigure } from '../units/learned.ts';
import { learned } from '../units/learned.ts';

/** From so many casts on the shop's own factor stands alone. */
export const ALONE_FROM = 6;
/** Before, the formula counts as so many casts. */
const FORMULA_COUNTS = 4;

/** The name that a factor is kept under: of an alloy and a wax. */
export const factorKey = (alloyId: string, wax: string): string => `${alloyId} ${wax}`;

/** What each kilogram of wax became, of casts that were weighed as wax and as metal. */
export const factorOfPairs = (pairs: readonly { readonly waxKg: number; readonly castKg: number }[]) =>
  learned(pairs.map(({ waxKg, castKg }) => positive('cast', castKg) / positive('wax', waxKg)));

/** The formula's factor and the shop's own together: n casts against the formula's four, from six on alone. Source: handbook 2.2. */
export function factorWith(formula: number, own: Pick<LearnedFigure, 'value' | 'n'> | undefined): number {
  if (!own || own.n <= 0) return formula;
  if (own.n >= ALONE_FROM) return own.value;
  return (own.n * own.value + FORMULA_COUNTS * formula) / (own.n + FORMULA_COUNTS);
}
