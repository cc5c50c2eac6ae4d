import type { Step } from '../records/step.ts';
import type { PlannedCoat } from '../shell/coats-by-plan.ts';
import { plannedCoat } from '../shell/coats-by-plan.ts';
import { coatCount } from './labels.ts';
import type { ShopIndex } from './shop-index.ts';

/** Whether a coat is the tree's last one, which seals. */
export const isSeal = (index: ShopIndex, step: Step): boolean =>
  index.kind(step).coat === true && step.sequence === coatCount(index, step.carrierId);

/** How a coat is made: by the plan that its tree keeps, else by the shop's; undefined where neither says. */
export function coatOf(index: ShopIndex, step: Step): PlannedCoat | undefined {
  if (!index.kind(step).coat || step.carrier !== 'tree') return undefined;
  const plan = index.tree.get(step.carrierId)?.coatPlan ?? index.shop.coatPlans?.[0];
  return plan ? plannedCoat(plan, step.sequence, isSeal(index, step)) : undefined;
}

/** What a form of a step starts with, by where it stands and how its coat is planned. */
export const startsAt = (index: ShopIndex, step: Step): Readonly<Record<string, unknown>> =>
  index.kind(step).starts?.(step, isSeal(index, step), coatOf(index, step)) ?? {};
