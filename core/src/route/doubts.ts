import type { Asked, Expectation } from '../records/expectation.ts';
import type { ReadingDef } from '../records/readings.ts';
import type { Refusal } from '../records/refusal.ts';
import { askOnce } from '../records/refusal.ts';
import type { Unit } from '../units/quantity.ts';
import { quantity } from '../units/quantity.ts';
import { say } from '../units/words.ts';

/** From a third to three times what is planned nobody asks. */
const FACTOR = 3;

/** Limits round what a reading should be: a third to three times of it. */
export const around = (expected: number, factor = FACTOR): { readonly low: number; readonly high: number } => ({
  low: expected / factor,
  high: expected * factor,
});

/** Slips of the hand that turn what was meant into what was typed: grams as kilograms and back, a point left out. */
const SLIPS: readonly ((value: number) => number)[] = [
  (value) => value / 1000,
  (value) => value / 100,
  (value) => value / 10,
  (value) => value * 1000,
];
const FAHRENHEIT = (value: number) => (value - 32) / 1.8;
const KELVIN = (value: number) => value - 273.15;

/**
 * Which readings lie outside what is expected, each with what was probably meant.
 *
 * In other words: 380 kg of wax where 0.34 kg is planned is 0.380 kg, typed in grams.
 *
 * @example
 * doubts([{ key: 'waxKg', ...around(0.34), from: '0.340 kg is planned' }], { waxKg: 380 }, 'done', defs);
 * // [{ asks: { field: 'readings.waxKg', value: 380 kg, instead: 0.38 kg }, … }]
 *
 * @param readings in the units that are kept; what is missing or no number is passed over
 */
export function doubts(
  expected: readonly Expectation[],
  readings: Readonly<Record<string, unknown>>,
  outcome: string,
  defs: readonly ReadingDef[],
): Refusal[] {
  return expected.flatMap((each) => {
    if (each.outcomes && !each.outcomes.includes(outcome)) return [];
    const def = defs.find(({ key }) => key === each.key);
    const all = readings[each.key];
    const value = each.of === undefined ? all : (all as Readonly<Record<string, unknown>> | undefined)?.[each.of];
    if (!def || typeof value !== 'number' || fits(each, value)) return [];
    const shown = (number: number) => quantity(number, def.unit ?? '', def.decimals);
    const meant = meantBy(each, value, def.unit ?? '');
    const asks: Asked = {
      field: ['readings', each.key, ...(each.of === undefined ? [] : [each.of])].join('.'),
      value: quantity(value, def.unit ?? ''),
      says: say`${def.label} ${quantity(value, def.unit ?? '')}, but ${each.from}`,
      ...(meant === undefined ? {} : { instead: shown(meant) }),
    };
    return [askOnce(asks)];
  });
}

type Limits = Pick<Expectation, 'low' | 'high'>;

const fits = ({ low = -Infinity, high = Infinity }: Limits, value: number): boolean => value >= low && value <= high;

/** What was probably meant by a value outside its limits, where a usual slip explains it; undefined where none does. */
export function meantBy(expected: Limits, value: number, unit: Unit): number | undefined {
  const slips = unit === '°C' ? [FAHRENHEIT, KELVIN] : SLIPS;
  const meant = slips.map((slip) => slip(value)).find((each) => fits(expected, each));
  return meant === undefined ? undefined : Number(meant.toPrecision(12));
}
