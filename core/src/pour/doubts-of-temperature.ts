import { alloyOf } from '../materials/alloys.ts';
import type { TemperaturePlace } from '../records/pour.ts';
import type { Refusal } from '../records/refusal.ts';
import { askOnce } from '../records/refusal.ts';
import { celsius } from '../units/quantity.ts';
import { say } from '../units/words.ts';
import { superheatOf } from './superheat.ts';

/** Beyond its window by so much a reading is asked about. */
const BEYOND_K = 100;
/** No mould is hotter, and none colder, °C. */
const MOULD_C = [0, 1150] as const;

/** What a reading can be without a question, °C: metal at the cup and in the ladle within 100 K of its window, metal that still heats up at any. */
function limits(alloyId: string, where: TemperaturePlace): readonly [low: number, high: number] {
  const { liquidusC } = alloyOf(alloyId);
  const [low, high] = superheatOf(alloyOf(alloyId));
  if (where === 'mould') return MOULD_C;
  return where === 'furnace'
    ? [0, liquidusC + high + 2 * BEYOND_K]
    : [liquidusC + low - BEYOND_K, liquidusC + high + BEYOND_K];
}

const SLIPS: readonly ((value: number) => number)[] = [
  (value) => (value - 32) / 1.8,
  (value) => value - 273.15,
  (value) => value / 10,
  (value) => value * 10,
];

/** A temperature that metal or mould can hardly have is asked about once, with what was probably meant: °F as °C, a nought too many. */
export function doubtsOfTemperature(alloyId: string, where: TemperaturePlace, value: number): Refusal[] {
  const [low, high] = limits(alloyId, where);
  const fits = (each: number) => each >= low && each <= high;
  if (fits(value)) return [];
  const meant = SLIPS.map((slip) => slip(value)).find((each) => fits(each));
  const what =
    where === 'mould'
      ? say`a mould`
      : say`${alloyOf(alloyId).name} ${where === 'cup' ? 'at the cup' : `in the ${where}`}`;
  return [
    askOnce({
      field: 'celsius',
      value: celsius(value),
      says: say`${celsius(value)} read, but ${what} is from ${celsius(low)} to ${celsius(high)}`,
      ...(meant === undefined ? {} : { instead: celsius(meant) }),
    }),
  ];
}
