import type { ClimateReading, DryingAir } from '../records/climate.ts';
import { toMs } from '../units/instant.ts';
import { wetBulbDepression } from './wet-bulb.ts';

const HOUR_MS = 3_600_000;
const DAY_HOURS = 24;
/** Nothing is said farther ahead than this. */
const AHEAD_HOURS = 14 * DAY_HOURS;
/** The days that are gone by which the days to come are expected. */
const DAYS_LOOKED_AT = 3;
const LEAST_HOURS = 12;

/**
 * The air of a place as it adds up: what was read, and from the last reading on what the same hours of the last three days
 * were like.
 * @param readings in the order of time; what one reads holds until the next
 * @param expected the air that is expected, instead of the same hours of the last days
 * @returns null where nothing was ever read
 * @throws RangeError where a reading cannot be: temperature and humidity swapped
 */
export function dryingAir(readings: readonly ClimateReading[], expected?: readonly ClimateReading[]): DryingAir | null {
  const last = readings.at(-1);
  if (!last) return null;
  const readUntilMs = toMs(last.at);
  const read = readings.map(({ at, celsius, humidityPercent }) => ({
    ms: toMs(at),
    kelvin: wetBulbDepression(celsius, humidityPercent),
  }));
  const ahead = expected
    ? expected
        .filter(({ at }) => at > last.at)
        .map(({ at, celsius, humidityPercent }) => ({
          ms: toMs(at),
          kelvin: wetBulbDepression(celsius, humidityPercent),
        }))
    : sameHours(read);
  const all = [...read, ...ahead];
  const thirst = [0];
  for (let i = 1; i < all.length; i++)
    thirst.push(thirst[i - 1]! + all[i - 1]!.kelvin * ((all[i]!.ms - all[i - 1]!.ms) / HOUR_MS));
  const day = ahead.slice(0, DAY_HOURS);
  const expectedK =
    day.length > 0 ? day.reduce((sum, { kelvin }) => sum + kelvin, 0) / day.length : read.at(-1)!.kelvin;
  return { ms: all.map(({ ms }) => ms), kelvin: all.map(({ kelvin }) => kelvin), thirst, readUntilMs, expectedK };
}

interface Moment {
  readonly ms: number;
  readonly kelvin: number;
}

/**
 * The hours to come, each as the same hour of the day was on the mean of the last days; as it is now where that hour was not
 * read, and all of them where so few were that they say nothing of a day.
 */
function sameHours(read: readonly Moment[]): Moment[] {
  const last = read.at(-1)!;
  const sums = new Map<number, { hours: number; thirst: number }>();
  const from = last.ms - DAYS_LOOKED_AT * DAY_HOURS * HOUR_MS;
  for (let i = read.length - 1; i >= 0 && read[i]!.ms > from; i--) {
    const hour = Math.floor(read[i]!.ms / HOUR_MS) % DAY_HOURS;
    const sum = sums.get(hour) ?? { hours: 0, thirst: 0 };
    sums.set(hour, { hours: sum.hours + 1, thirst: sum.thirst + read[i]!.kelvin });
  }
  if (sums.size < LEAST_HOURS) sums.clear();
  const begin = Math.floor(last.ms / HOUR_MS) + 1;
  return Array.from({ length: AHEAD_HOURS }, (_, i) => {
    const sum = sums.get((begin + i) % DAY_HOURS);
    return { ms: (begin + i) * HOUR_MS, kelvin: sum ? sum.thirst / sum.hours : last.kelvin };
  });
}

/** The place of the last moment that is not after one; −1 before the first. */
function placeOf({ ms }: DryingAir, at: number): number {
  let [low, high] = [0, ms.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (ms[middle]! <= at) low = middle + 1;
    else high = middle;
  }
  return low - 1;
}

/** What has added up until a moment, K·h. @throws RangeError where the climate does not reach back to it */
export function thirstAt(air: DryingAir, at: number): number {
  const place = placeOf(air, at);
  if (place < 0) throw new RangeError('the climate does not reach back to the dip');
  return air.thirst[place]! + air.kelvin[place]! * ((at - air.ms[place]!) / HOUR_MS);
}

/** Whether the air of a moment is known. */
export const reachesBack = (air: DryingAir, at: number): boolean => air.ms.length > 0 && air.ms[0]! <= at;

/** When so much more has added up, counted from a moment; null where it never does as far as anything is said. */
export function thirstReached(air: DryingAir, from: number, more: number): number | null {
  const wanted = thirstAt(air, from) + more;
  const farthest = from + AHEAD_HOURS * HOUR_MS;
  let [low, high] = [Math.max(0, placeOf(air, from)), air.ms.length];
  // The last moment by which less than that has added up.
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (air.thirst[middle]! < wanted) low = middle;
    else high = middle;
  }
  const left = wanted - air.thirst[low]!;
  if (left <= 0) return Math.max(from, air.ms[low]!);
  if (air.kelvin[low]! <= 0) return null;
  const reached = air.ms[low]! + (left / air.kelvin[low]!) * HOUR_MS;
  return reached <= farthest ? Math.max(from, reached) : null;
}
