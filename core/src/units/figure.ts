/** Units that cross a border in Kalvet; one unit per quantity (kg, mm, cm², °C, minutes). */
export type Unit =
  'kg' | 'g' | 'mm' | 'm' | 'cm2' | 'cm3' | '°C' | 'min' | 's' | 'h' | '%' | '×' | 'MPa' | 'kWh' | 'pulls' | '';

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
  readonly inWords: string;
  readonly inputs: Readonly<Record<string, number | string>>;
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

/** The number with its decimals and unit as the screens print it, e.g. `8.54 kg`, `±` included where there is one. */
export function formatFigure(figure: Figure, decimals = 2): string {
  const unit = figure.unit === '' ? '' : ` ${UNIT_SIGNS[figure.unit] ?? figure.unit}`;
  const spread = figure.plusMinus === undefined ? '' : ` ± ${figure.plusMinus.toFixed(decimals)}`;
  return `${figure.value.toFixed(decimals)}${spread}${unit}`;
}

const UNIT_SIGNS: Partial<Record<Unit, string>> = { cm2: 'cm²', cm3: 'cm³' };

/** A unit as it is printed: `cm2` becomes `cm²`. */
export const unitSign = (unit: Unit): string => UNIT_SIGNS[unit] ?? unit;
