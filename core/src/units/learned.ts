import { median } from './median.ts';

/** A figure that the shop's own records give: their middle, from how many, and how far they lie apart. */
export interface LearnedFigure {
  readonly value: number;
  readonly n: number;
  readonly spread: number;
}

/** Robust spread: 1.4826 × the median distance from the median (R. Maronna, Robust Statistics). */
const MAD = 1.4826;

/** The middle of values with its spread; undefined of none. */
export function learned(values: readonly number[]): LearnedFigure | undefined {
  const value = median(values);
  if (value === undefined) return undefined;
  return { value, n: values.length, spread: MAD * median(values.map((each) => Math.abs(each - value)))! };
}
