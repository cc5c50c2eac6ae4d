import { kg, quantity } from '../units/quantity.ts';
import type { Text } from '../units/words.ts';
import { say } from '../units/words.ts';

/** So much may be missing or too much, as a share or in kg, whichever is more: scales, skin and spill. */
export const BALANCE_SHARE = 0.03;
export const BALANCE_KG = 0.3;

/** What went in and came out somewhere, kg. */
export interface Balance {
  readonly inKg: number;
  readonly outKg: number;
  /** In less out: what was lost; below zero more came out than went in. */
  readonly lostKg: number;
  /** So far off that somebody weighs again. */
  readonly isOff: boolean;
}

/**
 * Whether a balance of metal closes: in = out + what is expected to be lost, within 3 % or 0.3 kg, whichever is more (handbook 2.6).
 * @param expectedLossKg burnt and skimmed in a melt; nothing for a tree
 */
export function balanceOf(inKg: number, outKg: number, expectedLossKg = 0): Balance {
  const lostKg = inKg - outKg;
  const isOff = Math.abs(lostKg - expectedLossKg) > Math.max(BALANCE_SHARE * inKg, BALANCE_KG) + 1e-9;
  return { inKg, outKg, lostKg, isOff };
}

/** `2.4 kg are missing`, `1.1 kg are too much`. */
export const offInWords = (balance: Balance, expectedLossKg = 0): Text => {
  const off = balance.lostKg - expectedLossKg;
  return say`${quantity(Math.abs(kg(off).value), 'kg', 1)} are ${off > 0 ? 'missing' : 'too much'}`;
};
