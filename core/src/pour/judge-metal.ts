import { alloyOf } from '../materials/alloys.ts';
import type { ChargeLine } from '../records/pour.ts';
import type { Refusal } from '../records/refusal.ts';
import { askOnce, never, unless } from '../records/refusal.ts';
import type { LotState } from '../records/stores.ts';
import { kg, quantity } from '../units/quantity.ts';
import { say } from '../units/words.ts';

/** A lot that lies there, as far as a charge is judged by it. */
export interface LotAtHand {
  readonly mark: string;
  readonly alloyId: string | null;
  readonly state: LotState;
  readonly leftKg: number;
}

/** Metal that lies there for a heat of one alloy. */
export interface MetalAtHand {
  readonly returnsKg: number;
  /** All lots of ingot; none where the shop keeps none. */
  readonly lots: readonly LotAtHand[];
}

type Line = Pick<ChargeLine, 'what' | 'alloyId' | 'kg' | 'lot'>;

/** Scales differ by so much. */
const SLACK_KG = 0.05;

const total = (lines: readonly Line[]) => lines.reduce((sum, { kg: kilograms }) => sum + kilograms, 0);

/** Whether a charge takes what is there: returns as far as they lie there, ingot of lots that are good, of this alloy, and not used up. */
export function judgeMetal(alloyId: string, lines: readonly Line[], { returnsKg, lots }: MetalAtHand): Refusal[] {
  const returns = total(lines.filter((line) => line.what === 'returns' && line.alloyId === alloyId));
  const marks = [...new Set(lines.filter(({ what }) => what === 'ingot').map(({ lot }) => lot.trim()))];
  return [
    ...(returns > returnsKg + SLACK_KG
      ? [
          never(
            'returns',
            say`${kg(returns)} of returns are charged, but ${kg(Math.max(0, returnsKg))} of ${alloyOf(alloyId).name} are there. Where there are more, count them first.`,
          ),
        ]
      : []),
    ...(lots.length === 0 ? [] : marks.flatMap((mark) => judgeLot(alloyId, mark, lines, lots))),
  ];
}

function judgeLot(alloyId: string, mark: string, lines: readonly Line[], lots: readonly LotAtHand[]): Refusal[] {
  if (mark === '') return [];
  const lot = lots.find((each) => each.mark.toLowerCase() === mark.toLowerCase());
  if (!lot) return [unless('lot', say`Lot ${mark} is not among the deliveries.`)];
  if (lot.state !== 'good')
    return [
      never(
        'lot',
        say`Lot ${lot.mark} is ${lot.state === 'quarantine' ? 'in quarantine: nobody knows its alloy for sure' : lot.state}.`,
      ),
    ];
  if (lot.alloyId !== null && lot.alloyId !== alloyId)
    return [never('lot', say`Lot ${lot.mark} is ${alloyOf(lot.alloyId).name}, not ${alloyOf(alloyId).name}.`)];
  const taken = total(
    lines.filter((line) => line.what === 'ingot' && line.lot.trim().toLowerCase() === mark.toLowerCase()),
  );
  return taken > lot.leftKg + SLACK_KG
    ? [
        unless(
          'lot',
          say`${kg(taken)} of lot ${lot.mark} are charged, but ${kg(Math.max(0, lot.leftKg))} of it are left.`,
        ),
      ]
    : [];
}

/** Phosphor copper that a tin bronze usually takes, a share of its charge (15 % phosphorus: 0.03–0.05 % of it in the melt). */
export const USUAL_ADDITION = 0.003;

/** A charge without what its alloy is usually given before the pour is asked about once. */
export function asksForAddition(alloyId: string, lines: readonly Line[]): Refusal[] {
  const { addition, name } = alloyOf(alloyId);
  if (addition === 'none' || lines.length === 0 || lines.some(({ what }) => what === 'addition')) return [];
  const usual = total(lines) * USUAL_ADDITION;
  return [
    askOnce({
      field: 'chargeLines',
      value: quantity(0, 'kg'),
      says: say`No ${addition} is charged; ${name} is usually given about ${quantity(usual * 1000, 'g', 0)} for such a charge, just before the pour`,
    }),
  ];
}
