import type { Text } from '../units/words.ts';
import { kg, percent } from '../units/quantity.ts';
import { say } from '../units/words.ts';
import { within } from '../units/figure.ts';

/** Wax that went into a dewax load and what came back of it, kg. */
export interface WaxOfLoad {
  readonly castsKg: number;
  readonly barsKg: number;
  readonly cupsKg: number;
  readonly recoveredKg: number;
}

export interface WaxBalance {
  readonly inKg: number;
  /** Burnt, or still inside the shells; below zero where more came back than went in. */
  readonly missingKg: number;
  readonly missingShare: number;
  /** Somebody looks into the shells before they are fired. */
  readonly looks: boolean;
  readonly says: Text;
}

/** So much may stay away; what is beyond it may lie in a shell and flash in the fire. Source: handbook 2.5. */
export const WAX_MAY_MISS = 0.15;
/** More back than went in by this is a slip of the scale, not of the wax. */
const MORE_BACK = 0.03;

/**
 * The balance of a dewax load's wax.
 *
 * @example
 * // 12.4 kg in, 10.2 back: 18 % are missing, so the shells are looked into before they are fired.
 */
export function waxBalance({ castsKg, barsKg, cupsKg, recoveredKg }: WaxOfLoad): WaxBalance {
  const inKg = [castsKg, barsKg, cupsKg].reduce((sum, each) => sum + within('wax', each, 0, 1e5), 0);
  const missingKg = inKg - within('wax recovered', recoveredKg, 0, 1e5);
  const missingShare = inKg > 0 ? missingKg / inKg : 0;
  const looks = missingShare > WAX_MAY_MISS;
  return { inKg, missingKg, missingShare, looks, says: saysOf(missingKg, missingShare, looks) };
}

function saysOf(missingKg: number, share: number, looks: boolean): Text {
  if (share < -MORE_BACK) return say`${kg(-missingKg)} more came back than went in: weigh it again`;
  return looks
    ? say`${kg(missingKg)} of wax are missing, ${percent(share)}: look into the shells before they are fired`
    : say`${kg(Math.max(0, missingKg))} burnt or left inside, ${percent(Math.max(0, share))}`;
}
