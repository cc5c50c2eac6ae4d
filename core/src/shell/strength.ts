import type { Figure } from '../units/figure.ts';
import { positive } from '../units/figure.ts';
import { mm, plain, quantity } from '../units/quantity.ts';
import { say } from '../units/words.ts';

/** Liquid bronze, g/cm³, as it pushes on its shell. */
const LIQUID_DENSITY = 7.8;
const GRAVITY = 9.81;
/** What a fired shell bears hot, MPa, and what it is loaded to at most of that. Source: handbook 2.4. */
export const HOT_STRENGTH_MPA = 5;
export const SAFETY = 2;
/** A clamped square plate under even pressure: σ = 0.308·p·(a/t)². Source: S. Timoshenko, Theory of Plates and Shells. */
const CLAMPED_SQUARE = 0.308;

const stress = (value: number, inWords: Figure['inWords'], inputs: Figure['inputs']): Figure => ({
  ...{ value, unit: 'MPa' as const, source: 'computed' as const, inWords, inputs },
});

/** What liquid metal pushes with at the foot of a shell, MPa: ρ·g·h. 0.6 m → 0.0459 MPa. */
export function metalPressure(heightMm: number): Figure {
  const value = (LIQUID_DENSITY * 1000 * GRAVITY * (positive('metal height', heightMm) / 1000)) / 1e6;
  const inputs = { height: mm(heightMm, 0), density: quantity(LIQUID_DENSITY, 'g/cm3', 1) };
  return stress(value, say`${mm(heightMm, 0)} of liquid metal`, inputs);
}

/** The pull in a round wall, MPa: p·r/t. 0.0459 MPa, r 60, t 8 → 0.34. */
export function roundWallStress(pressureMpa: number, radiusMm: number, wallMm: number): Figure {
  const value = (positive('pressure', pressureMpa) * positive('radius', radiusMm)) / positive('shell wall', wallMm);
  const inputs = { radius: mm(radiusMm, 0), wall: mm(wallMm, 1) };
  return stress(value, say`a round wall of ${mm(wallMm, 1)}, radius ${mm(radiusMm, 0)}`, inputs);
}

/** The bending in a flat panel of a side, clamped all round, MPa. 0.0459 MPa, a 150, t 8 → 4.97. */
export function flatWallStress(pressureMpa: number, sideMm: number, wallMm: number): Figure {
  const ratio = positive('side', sideMm) / positive('shell wall', wallMm);
  const value = CLAMPED_SQUARE * positive('pressure', pressureMpa) * ratio ** 2;
  const inputs = { side: mm(sideMm, 0), wall: mm(wallMm, 1) };
  return stress(value, say`a flat of ${mm(sideMm, 0)} in a wall of ${mm(wallMm, 1)}`, inputs);
}

/** How a stress stands to what the shell bears. */
export interface StrengthVerdict {
  /** Of what it may bear with its safety; above 1 too much. */
  readonly share: number;
  /** Coats more, of so many mm each, after which it would hold; none where it does. */
  readonly coatsMore: number;
  readonly says: Figure['inWords'];
}

/**
 * Whether a shell holds, and how many coats more a flat would need: its stress falls with the square of the wall.
 * @param coatMm what a coat adds; @param byWall the power of the wall that the stress falls with: 1 round, 2 flat
 */
export function judgeStrength(
  { value }: Figure,
  { wallMm, coatMm, byWall }: { readonly wallMm: number; readonly coatMm: number; readonly byWall: 1 | 2 },
  strengthMpa = HOT_STRENGTH_MPA,
): StrengthVerdict {
  const share = (value * SAFETY) / positive('hot strength', strengthMpa);
  const wanted = positive('shell wall', wallMm) * share ** (1 / byWall);
  const coatsMore = share <= 1 ? 0 : Math.ceil((wanted - wallMm) / positive('a coat', coatMm) - 1e-9);
  return {
    share,
    coatsMore,
    says:
      coatsMore === 0
        ? say`holds: ${plain(share * 100, 0)} % of what it bears with a safety of ${plain(SAFETY, 0)}`
        : say`too weak: ${plain(coatsMore, 0)} coats more, or ribs`,
  };
}
