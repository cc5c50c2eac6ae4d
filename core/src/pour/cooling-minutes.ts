import { HOUR_MIN } from '../units/instant.ts';
import { within } from '../units/figure.ts';

/** Cooling before knock-out in minutes: 2 h and 0.2 h per kg in the tree, at most 24 h. The shop's figures replace it. */
export function coolingMinutes(metalKg: number): number {
  return Math.min(24, 2 + 0.2 * within('metal in the tree', metalKg, 0, 1e6)) * HOUR_MIN;
}
