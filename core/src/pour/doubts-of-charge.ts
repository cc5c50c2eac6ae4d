import type { ChargeLine } from '../records/pour.ts';
import type { Refusal } from '../records/refusal.ts';
import { askOnce } from '../records/refusal.ts';
import { kg, quantity } from '../units/quantity.ts';
import { say } from '../units/words.ts';

/** From a third to three times of what the trees ask for nobody asks; grams typed as kilograms are far outside. */
const FACTOR = 3;

/** A charge that is far from what its trees ask for, both in kg; one that nobody has written down yet is none. */
export function doubtsOfCharge(lines: readonly Pick<ChargeLine, 'kg'>[], askedKg: number): Refusal[] {
  const charged = lines.reduce((sum, line) => sum + line.kg, 0);
  if (lines.length === 0 || (charged >= askedKg / FACTOR && charged <= askedKg * FACTOR)) return [];
  return [
    askOnce({
      field: 'chargeLines',
      value: quantity(charged, 'kg', 1),
      says: say`${kg(charged)} charged, but the trees ask for ${kg(askedKg)}`,
    }),
  ];
}

/** More metal poured than is left of what was charged: a scale, a tree or a line of the charge is wrong. All in kg. */
export function doubtsOfPour(pouredKg: unknown, chargedKg: number, pouredBeforeKg: number): Refusal[] {
  const left = chargedKg - pouredBeforeKg;
  if (typeof pouredKg !== 'number' || chargedKg <= 0 || pouredKg <= left + 0.05) return [];
  return [
    askOnce({
      field: 'readings.pouredKg',
      value: quantity(pouredKg, 'kg', 1),
      says: say`${kg(pouredKg)} poured, but of ${kg(chargedKg)} charged ${kg(Math.max(0, left))} are left`,
    }),
  ];
}
