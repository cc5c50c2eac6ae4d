import type { ClimateReading, DryingAir } from '../records/climate.ts';
import { positive, within } from '../units/figure.ts';
import type { Instant } from '../units/instant.ts';
import { fromMs, toMs } from '../units/instant.ts';
import { thirstAt, thirstReached } from './drying-air.ts';
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

/** The thirst that a coat takes to dry, K·h. */
export const thirstOf = ({ referenceHours, referenceK = REFERENCE_K, cavity, airflow }: CoatToDry): number =>
  positive('reference depression', referenceK) *
  positive('reference hours', referenceHours) *
  within('cavity', cavity, 0.5, 10) *
  positive('airflow', airflow);

/** How much of itself a coat dries in an hour of this air. */
export const dryingAnHour = (air: Pick<ClimateReading, 'celsius' | 'humidityPercent'>, coat: CoatToDry): number =>
  wetBulbDepression(air.celsius, air.humidityPercent) / thirstOf(coat);

/**
 * The share of its water that a coat has lost since it was dipped; dry at 1.
 *
 * In other words: every minute counts by how thirsty the air was in it.
 *
 * @example
 * // Two hours at 22 °C, 50 % (6.51 K), then at 20 °C, 70 % (3.53 K): dry after 5.69 h, not after 4.
 *
 * @param air of the place it hangs in
 * @param coat what decides how fast it dries; @param since the dip; @param until now
 * @returns 0 … ∞; above 1 it is dry
 * @throws RangeError where the climate does not reach back to the dip
 * Source: evaporation into moving air goes with the wet bulb depression (handbook 2.4).
 */
export const driedShare = (air: DryingAir, coat: CoatToDry, since: Instant, until: Instant): number =>
  Math.max(0, thirstAt(air, toMs(until)) - thirstAt(air, toMs(since))) / thirstOf(coat);

/**
 * When a coat is dry: with what was read until now, and from there on with what is expected of the place.
 * @returns null where it is not dry within two weeks: nothing dries in such air
 * @throws RangeError where the climate does not reach back to the dip
 */
export function dryAt(air: DryingAir, coat: CoatToDry, since: Instant): Instant | null {
  const reached = thirstReached(air, toMs(since), thirstOf(coat));
  // To the second: what is summed up in parts never comes out whole.
  return reached === null ? null : fromMs(Math.round(reached / 1000) * 1000);
}
