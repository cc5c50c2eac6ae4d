import { HOUR_MIN } from '../units/instant.ts';
import { within } from '../units/figure.ts';

/** A block holds its heat: half as long again, and for two days at most. */
const BLOCK = 1.5;
const MOST_H = 24;
const MOST_BLOCK_H = 48;

/** Cooling before knock-out in minutes: 2 h and 0.2 h per kg in the tree, at most 24 h, in a block half as long again. The shop's figures replace it. */
export function coolingMinutes(metalKg: number, isBlock = false): number {
  const hours = 2 + 0.2 * within('metal in the tree', metalKg, 0, 1e6);
  return Math.min(isBlock ? MOST_BLOCK_H : MOST_H, hours * (isBlock ? BLOCK : 1)) * HOUR_MIN;
}
