import type { ClimateReading } from '../records/climate.ts';
import { positive, within } from '../units/figure.ts';
import type { Instant } from '../units/instant.ts';
import { fromMs, toMs } from '../units/instant.ts';
import { wetBulbDepression } from './wet-bulb.ts';

/** What decides how fast a coat dries. */
export interface CoatToDry {
  /** Hours to dry in the shop's own open reference case, in air of `referenceK`. */
  readonly referenceHours: number;
  /** The wet bulb depression of that case, K; 22 °C and 50 % where it was never measured. */
  readonly referenceK?: number;
  /** 1 open … 3 deep. */
  readonly cavity: number;
  /** 1 for the reference's draught; (v_ref ÷ v)^0.5 for another. */
  readonly airflow: number;
}

/** At 22 °C and 50 %. */
export const REFERENCE_K = 6.51;
const HOUR_MS = 3_600_000;

/** How much of itself a coat dries in an hour of this air. */
export function dryingAnHour(air: Pick<ClimateReading, 'celsius' | 'humidityPercent'>, coat: CoatToDry): number {
  const { referenceHours, referenceK = REFERENCE_K, cavity, airflow } = coat;
  const needs =
    positive('reference hours', referenceHours) * within('cavity', cavity, 0.5, 10) * positive('airflow', airflow);
  return wetBulbDepression(air.celsius, air.humidityPercent) / (positive('reference depression', referenceK) * needs);
}

/** The readings from a moment on, the one before it first: what it read holds until the next one. */
function fromOn(climate: readonly ClimateReading[], since: Instant): readonly ClimateReading[] {
  const first = climate.findLastIndex(({ at }) => at <= since);
  if (first < 0) throw new RangeError('the climate does not reach back to the dip');
  return climate.slice(first);
}

/**
 * The share of its water that a coat has lost since it was dipped; dry at 1.
 *
 * In other words: every minute counts by how thirsty the air was in it.
 *
 * @example
 * // Two hours at 22 °C, 50 % (6.51 K), then at 20 °C, 70 % (3.53 K): dry after 5.69 h, not after 4.
 *
 * @param climate readings in the order of time, the first at or before the dip
 * @param coat what decides how fast it dries; @param since the dip; @param until now
 * @returns 0 … ∞; above 1 it is dry
 * @throws RangeError where the climate does not reach back to the dip
 * Source: evaporation into moving air goes with the wet bulb depression (handbook 2.4).
 */
export function driedShare(
  climate: readonly ClimateReading[],
  coat: CoatToDry,
  since: Instant,
  until: Instant,
): number {
  const readings = fromOn(climate, since);
  const [begin, end] = [toMs(since), toMs(until)];
  let share = 0;
  readings.forEach((air, i) => {
    const from = Math.max(begin, toMs(air.at));
    const next = readings[i + 1];
    const to = Math.min(end, next ? toMs(next.at) : end);
    if (to > from) share += dryingAnHour(air, coat) * ((to - from) / HOUR_MS);
  });
  return share;
}

/** Nothing is said farther ahead than this: a room at 100 % dries nothing. */
const FARTHEST_MS = 14 * 24 * HOUR_MS;

/**
 * When a coat is dry: with what was read until now, and from there on with what is expected of the room.
 * @param forecast the air that is expected, in the order of time; what was read last where it says nothing
 * @returns null where it is not dry within two weeks: nothing dries in such air
 * @throws RangeError where the climate does not reach back to the dip
 */
export function dryAt(
  climate: readonly ClimateReading[],
  coat: CoatToDry,
  since: Instant,
  forecast: readonly ClimateReading[] = [],
): Instant | null {
  const last = climate.at(-1);
  const readings = [...fromOn(climate, since), ...forecast.filter(({ at }) => !last || at > last.at)];
  let left = 1;
  for (const [i, air] of readings.entries()) {
    const from = Math.max(toMs(since), toMs(air.at));
    const next = readings[i + 1];
    const to = next ? toMs(next.at) : toMs(since) + FARTHEST_MS;
    if (to <= from) continue;
    const anHour = dryingAnHour(air, coat);
    const wants = anHour > 0 ? (left / anHour) * HOUR_MS : Infinity;
    // To the second: what is summed up in parts never comes out whole.
    if (from + wants <= to + 1) return fromMs(Math.round((from + wants) / 1000) * 1000);
    left -= (anHour * (to - from)) / HOUR_MS;
  }
  return null;
}
