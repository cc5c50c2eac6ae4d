import type { ClimateReading } from '../records/climate.ts';
import { minutesBetween } from '../units/instant.ts';

/** Of a sensor that speaks each minute so many are enough. */
const EVERY_MIN = 15;
/** A change that is more than a sensor's noise is kept at once. */
const [CHANGE_K, CHANGE_PERCENT] = [0.4, 2];

/** Whether a reading is worth keeping beside the one that was kept last: a sensor speaks each minute, a room changes slowly. */
export const worthKeeping = (reading: ClimateReading, last: ClimateReading | undefined): boolean =>
  last === undefined ||
  minutesBetween(last.at, reading.at) >= EVERY_MIN ||
  (minutesBetween(last.at, reading.at) >= 1 &&
    (Math.abs(reading.celsius - last.celsius) >= CHANGE_K ||
      Math.abs(reading.humidityPercent - last.humidityPercent) >= CHANGE_PERCENT));
