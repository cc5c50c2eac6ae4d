import type { ClimateAlarm, KeptClimate } from '../records/climate.ts';
import type { Instant } from '../units/instant.ts';
import { minutesBetween } from '../units/instant.ts';
import { quantity } from '../units/quantity.ts';
import { at, say, span } from '../units/words.ts';
import { wetBulbDepression } from './wet-bulb.ts';

/** Below this hardly anything dries, K. */
export const DAMP_BELOW_K = 2;
/** Wax grows and cracks its shell where the room changes by so much, K, within so many minutes. */
export const JUMP_K = 2;
const JUMP_WITHIN_MIN = 120;
/** A sensor that says nothing for so long has stopped; one that says the same to the last digit for so long hangs. */
const SILENT_MIN = 45;
const STUCK_MIN = 12 * 60;
const STUCK_LEAST = 6;
/** What was typed holds for a shift. */
const TYPED_OLD_MIN = 12 * 60;

const k = (value: number) => quantity(value, 'K', 1);

/**
 * What somebody should know of the air of a place now.
 * @param readings of the last day, in the order of time; @param green whether shells that are not sealed hang in it
 */
export function climateAlarms(readings: readonly KeptClimate[], now: Instant, green: boolean): ClimateAlarm[] {
  const last = readings.at(-1);
  if (!last) return [];
  const alarms: ClimateAlarm[] = [];
  const d = wetBulbDepression(last.celsius, last.humidityPercent);
  if (last.humidityPercent >= 99.5)
    alarms.push({ code: 'nothing dries', says: 'The air is full: nothing dries in it' });
  else if (d < DAMP_BELOW_K)
    alarms.push({ code: 'damp', says: say`Wet bulb only ${k(d)} below the room: shells hardly dry` });
  const near = readings.filter((each) => minutesBetween(each.at, last.at) <= JUMP_WITHIN_MIN);
  const [low, high] = [Math.min(...near.map((r) => r.celsius)), Math.max(...near.map((r) => r.celsius))];
  if (green && high - low > JUMP_K && minutesBetween(last.at, now) <= JUMP_WITHIN_MIN)
    alarms.push({
      code: 'jump',
      says: say`The room went by ${k(high - low)} within two hours while green shells hang: wax grows, shells crack`,
    });
  const age = minutesBetween(last.at, now);
  if (age > (last.source === 'sensor' ? SILENT_MIN : TYPED_OLD_MIN))
    alarms.push({
      code: 'silent',
      says: say`Nothing read for ${span(age)}; ${last.source === 'sensor' ? 'the sensor is silent' : 'it was typed'}. What was read ${at(last.at)} is used`,
    });
  const stuck = stuckMinutes(readings);
  if (last.source === 'sensor' && stuck >= STUCK_MIN)
    alarms.push({ code: 'stuck', says: say`The sensor has said the same for ${span(stuck)}: it may hang` });
  return alarms;
}

/** For how long the last readings were the same to the last digit, minutes. */
function stuckMinutes(readings: readonly KeptClimate[]): number {
  const last = readings.at(-1)!;
  const differs = readings.findLastIndex(
    (each) => each.celsius !== last.celsius || each.humidityPercent !== last.humidityPercent,
  );
  const same = readings.slice(differs + 1);
  return same.length < STUCK_LEAST ? 0 : minutesBetween(same[0]!.at, last.at);
}
