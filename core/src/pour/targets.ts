import type { Alloy } from '../materials/alloys.ts';
import type { Figure } from '../units/figure.ts';
import { positive, within } from '../units/figure.ts';
import { celsius, kelvin, mm, quantity } from '../units/quantity.ts';
import { say } from '../units/words.ts';
import { superheatOf } from './superheat.ts';

/** From the thinnest wall to the thickest that superheat is told for, mm: beyond these it changes no more. */
const THIN_MM = 3;
const THICK_MM = 10;
/** A reading at the cup within so many kelvin is as good as the target. */
export const CUP_BAND_K = 15;

/**
 * The temperature at the cup that a wall wants, °C: liquidus and superheat, linear from the upper end of the alloy's range at a
 * wall of 3 mm to its lower end at 10 mm (general practice).
 * @throws RangeError for a wall that is not above zero
 */
export function cupTarget(alloy: Alloy, wallMm: number): Figure {
  const [low, high] = superheatOf(alloy);
  const share = (Math.min(THICK_MM, Math.max(THIN_MM, positive('wall, mm', wallMm))) - THIN_MM) / (THICK_MM - THIN_MM);
  const superheat = high - share * (high - low);
  return {
    value: alloy.liquidusC + superheat,
    unit: '°C',
    plusMinus: CUP_BAND_K,
    source: 'computed',
    inWords: say`liquidus ${celsius(alloy.liquidusC)} + ${kelvin(superheat)} for a wall of ${mm(wallMm)}`,
    inputs: { liquidus: celsius(alloy.liquidusC), superheat: kelvin(superheat), wall: mm(wallMm) },
  };
}

/** Whether metal at a cup was right for its wall, °C: colder than the target's band, hotter than the alloy is ever poured, or good. */
export function cupStands(celsius: number, cup: Figure, alloy: Alloy): 'cold' | 'good' | 'hot' {
  if (celsius < cup.value - (cup.plusMinus ?? CUP_BAND_K)) return 'cold';
  return celsius > alloy.liquidusC + superheatOf(alloy)[1] ? 'hot' : 'good';
}

/** How metal cools on its way from the furnace to the cups. */
export interface OnTheWay {
  /** What pouring it over costs, K. */
  readonly transferK: number;
  /** How fast the crucible cools, a minute: dT/dt = −k·(T − T_a). */
  readonly coolingPerMin: number;
  /** Minutes from the first tree's cup to the next one's. */
  readonly minutesATree: number;
  readonly airC: number;
}

/** A foundry states its crucible's loss at this heat, over air at the other, °C. */
const LOSS_AT_C = 1150;
const LOSS_OVER_AIR_C = 20;

/** A crucible's cooling, a minute, from the kelvins that it loses in a minute at 1150 °C: k = loss ÷ (T − T_a). */
export const coolingPerMinOf = (lossK: number): number => lossK / (LOSS_AT_C - LOSS_OVER_AIR_C);

/** The kelvins that a crucible which cools so fast loses in a minute at 1150 °C: k · (T − T_a). */
export const crucibleLossOf = (coolingPerMin: number): number => coolingPerMin * (LOSS_AT_C - LOSS_OVER_AIR_C);

/** A crucible's cooling from two readings so many minutes apart, a minute: k = ln((T₁ − T_a) ÷ (T₂ − T_a)) ÷ Δt. */
export function coolingOf(firstC: number, secondC: number, minutes: number, airC = 20): number {
  const [first, second] = [
    within('first reading, °C', firstC, airC + 1, 2000),
    within('second reading, °C', secondC, airC + 1, firstC),
  ];
  return Math.log((first - airC) / (second - airC)) / positive('minutes', minutes);
}

/** What is left of a temperature after so many minutes in the crucible, °C. */
export const cooledTo = (fromC: number, minutes: number, coolingPerMin: number, airC = 20): number =>
  airC + (fromC - airC) * Math.exp(-coolingPerMin * minutes);

/** A tree of a heat by its cup target, °C. */
export interface Aimed {
  readonly label: string;
  readonly cupC: number;
}

/**
 * What the furnace is brought to so that every tree gets its target in this order, °C: the largest over the trees of cup target,
 * transfer, and what the crucible loses until then. Undefined where there is no tree.
 */
export function furnaceTarget(
  inOrder: readonly Aimed[],
  { transferK, coolingPerMin, minutesATree, airC }: OnTheWay,
): Figure | undefined {
  const wanted = inOrder.map(({ label, cupC }, place) => {
    const minutes = place * minutesATree;
    const leaves = cupC + within('transfer, K', transferK, 0, 500);
    // What it must be at the beginning to be that after so many minutes.
    const value = airC + (leaves - airC) * Math.exp(within('cooling a minute', coolingPerMin, 0, 1) * minutes);
    return { label, cupC, minutes, lost: value - leaves, value };
  });
  const most = wanted.reduce<(typeof wanted)[number] | undefined>(
    (one, other) => (one && one.value >= other.value ? one : other),
    undefined,
  );
  if (!most) return undefined;
  const { label, cupC, minutes, lost, value } = most;
  return {
    value,
    unit: '°C',
    source: 'computed',
    inWords: say`${label}: ${celsius(cupC)} at the cup + ${kelvin(transferK)} transfer + ${kelvin(lost)} lost in ${quantity(minutes, 'min', 0)} until it is poured`,
    inputs: { cup: celsius(cupC), transfer: kelvin(transferK), lost: kelvin(lost) },
  };
}

/** A tree whose place in the order is asked for. */
export interface Placed extends Aimed {
  readonly treeId: string;
  readonly kg: number;
  /** How high the metal stands in it, mm; null where nobody knows. */
  readonly heightMm: number | null;
}

/**
 * The order in which one crucible fills trees best: who wants the hottest metal first, of these the tall ones, heavy ones last. By
 * cup target falling the furnace has to be brought to the least there is: of two neighbours in the other order the later one
 * would have waited with the higher target.
 */
export const pouringOrder = <T extends Placed>(trees: readonly T[]): T[] =>
  [...trees].sort(
    (a, b) =>
      Math.round(b.cupC) - Math.round(a.cupC) ||
      (b.heightMm ?? 0) - (a.heightMm ?? 0) ||
      a.kg - b.kg ||
      a.treeId.localeCompare(b.treeId),
  );
