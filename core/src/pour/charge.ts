import type { Figure } from '../units/figure.ts';
import { positive, within } from '../units/figure.ts';
import { kg, percent } from '../units/quantity.ts';
import { say } from '../units/words.ts';

/** Shop defaults for a heat. */
export const DEFAULT_MELT_LOSS = 0.02;
export const DEFAULT_RETURNS_SHARE = 0.5;
export const DEFAULT_PIG_RESERVE_KG = 2;
/** Below this share of the crucible a charge melts badly. */
const POOR_FILL = 0.3;

/** What a heat asks for. All in kg; shares from 0 to 1. */
export interface ChargeWanted {
  readonly pourWeightsKg: readonly number[];
  readonly pigReserveKg?: number;
  readonly meltLoss?: number;
  readonly returnsShare?: number;
  /** Clean returns of the same alloy that are at hand. */
  readonly returnsKg?: number;
  /** What the shop lets into the crucible. */
  readonly usableKg: number;
  /** What it holds to the rim. */
  readonly holdsKg: number;
}

/** The charge of one heat. */
export interface Charge {
  readonly metal: Figure;
  readonly charge: Figure;
  readonly returnsKg: number;
  readonly ingotKg: number;
  /** Room left below the usable mark; negative when over it. */
  readonly freeKg: number;
  readonly overUsable: boolean;
  readonly overHolds: boolean;
  readonly tooLittle: boolean;
}

/**
 * Charge = (Σ pour weights + pig reserve) ÷ (1 − melt loss), split into returns (at most the shop's share and at most
 * what there is) and ingot. What must fit the crucible is the metal before its loss, so the whole charge counts.
 */
export function charge(wanted: ChargeWanted): Charge {
  const meltLoss = within('melt loss', wanted.meltLoss ?? DEFAULT_MELT_LOSS, 0, 0.5);
  const share = within('returns share', wanted.returnsShare ?? DEFAULT_RETURNS_SHARE, 0, 1);
  const pig = within('pig reserve', wanted.pigReserveKg ?? DEFAULT_PIG_RESERVE_KG, 0, 1e5);
  const usable = positive('usable mark', wanted.usableKg);
  const holds = positive('what the crucible holds', wanted.holdsKg);
  const poured = wanted.pourWeightsKg.reduce((sum, each) => sum + within('pour weight', each, 0, 1e5), 0);
  const metalKg = poured + pig;
  const chargeKg = metalKg / (1 - meltLoss);
  const returnsKg = Math.min(chargeKg * share, within('returns', wanted.returnsKg ?? 0, 0, 1e6));
  const inputs = { 'pour weights': kg(poured), 'pig reserve': kg(pig), 'melt loss': percent(meltLoss, 1) };
  return {
    metal: { value: metalKg, unit: 'kg', source: 'computed', inWords: 'pour weights + pig reserve', inputs },
    charge: {
      value: chargeKg,
      unit: 'kg',
      source: 'computed',
      inWords: say`(${kg(poured)} + pig ${kg(pig)}) ÷ (1 − ${percent(meltLoss, 1)} melt loss)`,
      inputs,
    },
    returnsKg,
    ingotKg: chargeKg - returnsKg,
    freeKg: usable - chargeKg,
    overUsable: chargeKg > usable + 1e-9,
    overHolds: chargeKg > holds + 1e-9,
    tooLittle: chargeKg < usable * POOR_FILL,
  };
}
