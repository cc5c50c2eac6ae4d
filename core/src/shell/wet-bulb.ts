import { within } from '../units/figure.ts';

/** Saturation pressure of water over water: 6.112·exp(17.62·T/(243.12 + T)) hPa (Magnus form, WMO guide). */
export const saturationHpa = (celsius: number): number => 6.112 * Math.exp((17.62 * celsius) / (243.12 + celsius));

/** Of an aspirated psychrometer, 1/K, at sea level. */
const PSYCHROMETER = 6.62e-4;
const PRESSURE_HPA = 1013.25;
const ROUNDS = 60;

/**
 * The wet bulb temperature in °C: what something wet cools to in moving air.
 *
 * In other words: where what evaporates costs as much heat as the air brings.
 *
 * @example
 * wetBulb(22, 50); // 15.49
 *
 * @param celsius of the air, −10 to 60; @param humidityPercent relative, 0 to 100
 * @throws RangeError where either lies beyond that: the two may have been swapped
 * Source: e = e_s(T_w) − 6.62e-4·p·(T − T_w), solved for T_w (handbook 2.4).
 */
export function wetBulb(celsius: number, humidityPercent: number): number {
  within('room temperature', celsius, -10, 60);
  const e = (saturationHpa(celsius) * within('humidity', humidityPercent, 0, 100)) / 100;
  let [low, high] = [-30, celsius];
  for (let i = 0; i < ROUNDS; i++) {
    const middle = (low + high) / 2;
    const vapour = saturationHpa(middle) - PSYCHROMETER * PRESSURE_HPA * (celsius - middle);
    if (vapour < e) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}

/** How thirsty the air is, K: by how much something wet cools in it. At 100 % nothing dries. */
export const wetBulbDepression = (celsius: number, humidityPercent: number): number =>
  celsius - wetBulb(celsius, humidityPercent);
