import type { Quantity, Unit } from './quantity.ts';
import { quantity } from './quantity.ts';
import type { Units } from './system.ts';
import { METRIC, quantityInWords, shown } from './system.ts';
import type { Text } from './words.ts';

export type { Unit } from './quantity.ts';

/** Where a number comes from: a scale, a formula over measurements, a formula over assumptions, or a shop default. */
export type FigureSource = 'measured' | 'computed' | 'estimated' | 'default';

/**
 * A number that can say how it came about: what a screen shows on hover or focus. `plusMinus` is in the same unit;
 * `inputs` name every figure that went in, in shop words.
 */
export interface Figure {
  readonly value: number;
  readonly unit: Unit;
  readonly plusMinus?: number;
  readonly source: FigureSource;
  readonly inWords: Text;
  readonly inputs: Readonly<Record<string, Quantity | number | string>>;
}

/** Throws a RangeError naming the quantity unless it is a finite number above zero. */
export function positive(name: string, value: number): number {
  if (!Number.isFinite(value) || value <= 0) throw new RangeError(`${name} must be above zero, not ${value}`);
  return value;
}

/** Throws a RangeError naming the quantity unless it is a finite number from `low` to `high`. */
export function within(name: string, value: number, low: number, high: number): number {
  if (!Number.isFinite(value) || value < low || value > high)
    throw new RangeError(`${name} must be from ${low} to ${high}, not ${value}`);
  return value;
}

/** The number with its decimals and unit as it is read, e.g. `8.54 ± 0.26 kg`. */
export function formatFigure(figure: Figure, decimals = 2, units: Units = METRIC): string {
  if (figure.plusMinus === undefined) return quantityInWords(quantity(figure.value, figure.unit, decimals), units);
  const main = shown(quantity(figure.value, figure.unit, decimals), units);
  // The spread in the very scale of the value: pounds beside pounds.
  const ratio =
    shown({ value: figure.value + figure.plusMinus, unit: figure.unit, decimals }, units).value - main.value;
  // A spread that rounds away says nothing: the number is as exact as it is written.
  if (Number(ratio.toFixed(main.decimals)) === 0)
    return quantityInWords(quantity(figure.value, figure.unit, decimals), units);
  return `${main.value.toFixed(main.decimals)} ± ${ratio.toFixed(main.decimals)}${main.sign === '' ? '' : ` ${main.sign}`}`;
}
