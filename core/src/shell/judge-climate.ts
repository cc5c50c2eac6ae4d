import type { ClimateReading } from '../records/climate.ts';
import { celsius, quantity } from '../units/quantity.ts';
import type { Text } from '../units/words.ts';
import { say } from '../units/words.ts';

/** No room where people dip wax is colder or hotter. */
const [COLDEST_C, HOTTEST_C] = [-5, 45];
const DRIEST = 1;

/** What is wrong with what was read of a room's air; nothing where it can be. */
export function wrongClimate({
  celsius: t,
  humidityPercent: rh,
}: Pick<ClimateReading, 'celsius' | 'humidityPercent'>): { readonly celsius?: Text; readonly humidityPercent?: Text } {
  if (!Number.isFinite(t)) return { celsius: 'is no number' };
  if (!Number.isFinite(rh)) return { humidityPercent: 'is no number' };
  if (t > HOTTEST_C && rh >= COLDEST_C && rh <= HOTTEST_C && t <= 100)
    return { celsius: say`${celsius(t)} and ${percentOf(rh)}: were the two swapped?` };
  if (t > HOTTEST_C && t <= 120) return { celsius: say`${celsius(t)} cannot be in a shell room; is it in °F?` };
  if (t < COLDEST_C || t > HOTTEST_C)
    return { celsius: say`${celsius(t)} cannot be: a room is at ${celsius(COLDEST_C)} to ${celsius(HOTTEST_C)}` };
  if (rh < DRIEST) return { humidityPercent: say`${percentOf(rh)} cannot be: the sensor is broken or not connected` };
  if (rh > 100) return { humidityPercent: say`${percentOf(rh)} cannot be: air holds no more than 100 %` };
  return {};
}

const percentOf = (value: number) => quantity(value, '%', 0);
