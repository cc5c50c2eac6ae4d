import type { Id } from '../records/common.ts';
import type { Concern } from '../records/history.ts';
import type { Op } from '../records/shop.ts';
import { update } from '../records/shop.ts';
import type { Step } from '../records/step.ts';
import { isClosed } from '../records/step.ts';
import type { TankStand } from '../records/tanks.ts';
import type { ShopIndex } from '../route/shop-index.ts';
import { doubtSettled, inDoubt, isInDoubt } from '../shell/tank-stand.ts';
import { concernsOf } from './act.ts';

/** What becomes of coats, and whom it concerns. */
export interface CoatsTouched {
  readonly ops: readonly Op[];
  readonly concerns: readonly Concern[];
  readonly count: number;
}

const touched = (
  index: ShopIndex,
  steps: readonly Step[],
  flagsOf: (step: Step) => readonly string[],
): CoatsTouched => ({
  ops: steps.map((step) => update('steps', step.id, { flags: flagsOf(step) })),
  concerns: steps.flatMap((step) => concernsOf(index, step)),
  count: steps.length,
});

/** Coats that were dipped in a tank between when it was last found good and when it was found out of order. */
export function coatsInDoubt(index: ShopIndex, stand: TankStand, stepIds: readonly Id[]): CoatsTouched {
  const flag = inDoubt(stand);
  const steps = stepIds.flatMap((id) => {
    const step = index.step.get(id);
    if (!step || !isClosed(step) || step.endedAt === null || stand.blockedSince === null) return [];
    const isInside = (stand.doubtFrom === null || step.endedAt > stand.doubtFrom) && step.endedAt <= stand.blockedSince;
    return isInside && step.readings['slurry'] === stand.slurry && !step.flags.some(isInDoubt) ? [step] : [];
  });
  return touched(index, steps, ({ flags }) => [...flags, flag]);
}

/** Coats in doubt of a tank that somebody has decided: they stand. */
export function coatsStand(index: ShopIndex, slurry: string, stepIds: readonly Id[], who: string): CoatsTouched {
  const steps = stepIds.flatMap((id) => {
    const step = index.step.get(id);
    return step?.readings['slurry'] === slurry && step.flags.some(isInDoubt) ? [step] : [];
  });
  return touched(index, steps, ({ flags }) => flags.map((flag) => doubtSettled(flag, who)));
}
