import { DAY_MIN } from '../../units/instant.ts';
import type { ShopPlan } from './shop-plan.ts';
import { planShop } from './shop-plan.ts';
import type { PlanSnapshot } from './snapshot.ts';

/** What a plan that was told before has of the steps still to be done. */
export type ToldPlan = NonNullable<PlanSnapshot['previous']>;

/** Dates that were told move for a gain of a piece's day, and for no less. */
const WORTH_MOVING = DAY_MIN;
/** An older plan comes back for an hour of gain: its dates were told too. */
const WORTH_RETURNING = 60;

/**
 * Plans a shop so that what was told stays told: what the plan in use says is kept as far as the shop allows it; dates that
 * were told before it come back where they can (a pour day that was closed is open again), before dates that nobody has heard; and what a search finds is taken
 * only where it gains a piece's day, or where it moves no more of what was told than moves anyway. The same shop after the same plans gives the same plan, on any machine.
 *
 * @param older plans before the one in use, the newest first
 * @param tries of the search; a number and no time, so that a slow machine tells no other dates
 */
export function planKeepingWord(
  snapshot: PlanSnapshot,
  { older = [], tries = 0 }: { readonly older?: readonly ToldPlan[]; readonly tries?: number } = {},
): ShopPlan {
  const told = [snapshot.previous ?? [], ...older].filter((each, place) => place === 0 || each.length > 0);
  let kept = planShop({ ...snapshot, previous: told[0]! });
  for (const previous of told.slice(1)) {
    const again = planShop({ ...snapshot, previous });
    if (isWorth(again, kept, WORTH_RETURNING) || isAsTold(again, kept, told[0]!)) kept = again;
  }
  if (tries <= 0) return kept;
  const searched = settled(snapshot, planShop(snapshot, { iterations: tries, tidy: true }));
  return isWorth(searched, kept, worthOf(searched, kept, told[0]!)) ? searched : kept;
}

/**
 * What a search must gain to be taken. A shop that was never told anything takes the best there is; where dates move anyway,
 * a plan that moves no more of them is taken for little.
 */
function worthOf(searched: ShopPlan, kept: ShopPlan, told: ToldPlan): number {
  if (told.length === 0) return 0;
  const moves = movedFrom(told, kept);
  return moves > 0 && movedFrom(told, searched) <= moves ? WORTH_RETURNING : WORTH_MOVING;
}

/** Where one pass of moving up what can leaves something to move, another follows. */
const MOST_PASSES = 4;

/** A plan in which nothing can move up any more in its own order: what is told is not improved on by planning it again. */
function settled(snapshot: PlanSnapshot, plan: ShopPlan): ShopPlan {
  let best = plan;
  for (let pass = 0; pass < MOST_PASSES; pass++) {
    const again = planShop({ ...snapshot, previous: best.steps });
    if (!isWorth(again, best, 1e-6)) break;
    best = again;
  }
  return best;
}

/**
 * Where dates that were told last move anyway, they rather go back to what was told before than to what nobody has heard: an
 * older plan that moves no more of them, and is an hour worse at most, comes back.
 */
function isAsTold(again: ShopPlan, kept: ShopPlan, told: ToldPlan): boolean {
  const moves = movedFrom(told, kept);
  return moves > 0 && movedFrom(told, again) <= moves && isWorth(again, kept, -WORTH_RETURNING);
}

/** How many steps begin on another day than was told. */
function movedFrom(told: ToldPlan, { steps }: ShopPlan): number {
  const days = new Map(told.map(({ stepId, start }) => [stepId, Math.floor(start / DAY_MIN)]));
  return steps.filter(({ stepId, start }) => days.has(stepId) && days.get(stepId) !== Math.floor(start / DAY_MIN))
    .length;
}

function isWorth({ schedule: one }: ShopPlan, { schedule: other }: ShopPlan, gain: number): boolean {
  if (one.status !== 'feasible') return false;
  return other.status !== 'feasible' || other.objective!.value - one.objective!.value > gain;
}

/** Tries by the size of a shop: what a machine of today does in a few seconds. */
export const triesFor = (tasks: number): number =>
  Math.max(200, Math.min(6000, Math.round(6_000_000 / Math.max(1, tasks))));
