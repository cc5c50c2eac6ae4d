import type { Alloy } from '../materials/alloys.ts';
import type { ShopFits } from '../records/model.ts';
import { castFromWax } from '../wax/bronze-from-wax.ts';
import { kg, mm } from '../units/quantity.ts';
import type { Text } from '../units/words.ts';
import { say } from '../units/words.ts';

/** What of a part is judged: the wax as it hangs in the shop. */
export interface PartToJudge {
  readonly waxKg: number;
  readonly sizeMm: readonly [number, number, number];
  readonly areaCm2: number;
  /** The hole through which its inside dries, and how deep it is behind it; null where it is solid or nothing is open. */
  readonly opening: { readonly acrossMm: number; readonly deepMm: number } | null;
  readonly isHollow: boolean;
}

/** How one limit of the shop stands to a part: its share of it, above 1 where it is beyond. */
export interface PartFinding {
  readonly limit: 'crucible' | 'lift' | 'tank' | 'kiln' | 'mould' | 'drying';
  readonly share: number;
  readonly says: Text;
  /** It cannot be done so; else it only asks for care. */
  readonly stops: boolean;
}

/** Of a pour weight so much is cast; bars and cup are the rest (the usual yield of a tree). */
export const USUAL_YIELD = 0.65;
/** Slurry and stucco make a part larger by this on every side, and a tank wants as much room again, mm. */
const SHELL_MM = 10;
const ROOM_MM = 40;
/** A shell of seven coats, kg/m² (9 mm of 1.75 g/cm³ and its stucco). */
const SHELL_KG_A_M2 = 15;
/** Beyond so many widths of its opening a hollow stays wet. */
const DRIES_WITHIN_WIDTHS = 3;

/** The room that a part takes: its height stands, the two others lie. */
function stood([a, b, c]: readonly [number, number, number]): { high: number; across: number } {
  const [long, middle, short] = [a, b, c].sort((x, y) => y - x) as [number, number, number];
  return { high: long, across: Math.hypot(middle, short) };
}

/** A part of a work held against what the shop has: crucible, lift, tank, kiln, mould room, and whether it dries inside. */
export function judgePart(part: PartToJudge, alloy: Alloy, fits: ShopFits): PartFinding[] {
  const metalKg = castFromWax(part.waxKg, alloy).value;
  const pourKg = metalKg / USUAL_YIELD;
  const mayPourKg = fits.crucibleUsableKg - fits.pigReserveKg;
  const hangsKg = metalKg / USUAL_YIELD + (part.areaCm2 / 1e4) * SHELL_KG_A_M2;
  const { high, across } = stood(part.sizeMm);
  const shelled = 2 * SHELL_MM;
  const tank = Math.max(
    (across + shelled + 2 * ROOM_MM) / fits.tankAcrossMm,
    (high + shelled + ROOM_MM) / fits.tankDeepMm,
  );
  const kiln = Math.max((across + shelled) / fits.kilnAcrossMm, (high + shelled) / fits.kilnHighMm);
  const longest = Math.max(...part.sizeMm);
  const found: PartFinding[] = [
    {
      limit: 'crucible',
      share: pourKg / mayPourKg,
      says: say`about ${kg(pourKg, 0)} to pour with its bars and cup; the crucible gives ${kg(mayPourKg, 0)}`,
      stops: true,
    },
    {
      limit: 'tank',
      share: tank,
      says: say`stands ${mm(high, 0)} high and ${mm(across, 0)} across; the tank is ${mm(fits.tankDeepMm, 0)} deep and ${mm(fits.tankAcrossMm, 0)} wide`,
      stops: true,
    },
    {
      limit: 'kiln',
      share: kiln,
      says: say`in its shell ${mm(high + shelled, 0)} × ${mm(across + shelled, 0)}; the kiln takes ${mm(fits.kilnHighMm, 0)} × ${mm(fits.kilnAcrossMm, 0)}`,
      stops: true,
    },
    {
      limit: 'mould',
      share: longest / fits.mouldLongMm,
      says: say`${mm(longest, 0)} long; the mould room handles ${mm(fits.mouldLongMm, 0)}`,
      stops: true,
    },
    {
      limit: 'lift',
      share: hangsKg / fits.liftLimitKg,
      says: say`shell and metal about ${kg(hangsKg, 0)}; one person lifts ${kg(fits.liftLimitKg, 0)}, else two or a hoist`,
      stops: false,
    },
  ];
  if (!part.isHollow) return found;
  const { opening } = part;
  const deep = opening === null ? Infinity : opening.deepMm / (DRIES_WITHIN_WIDTHS * opening.acrossMm);
  return [
    ...found,
    {
      limit: 'drying',
      share: deep,
      says:
        opening === null
          ? 'closed all round: its inside needs a window, or a core'
          : say`${mm(opening.deepMm, 0)} deep behind an opening of ${mm(opening.acrossMm, 0)}: ${deep > 1 ? 'dries last, a window helps' : 'dries'}`,
      stops: false,
    },
  ];
}

/** How far a part is beyond the shop's limits: the worst of those that stop it, at most 1 where it fits. */
export const excessOf = (findings: readonly PartFinding[]): number =>
  findings.reduce((most, { share, stops }) => (stops ? Math.max(most, share) : most), 0);
