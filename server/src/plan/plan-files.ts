import type { Instant, PlanProblem, Schedule } from '@kalvet/core';
import { planAsIs } from '@kalvet/core';
import type { Store } from '../write/store.ts';
import { planSnapshot } from './make-plan.ts';

/** The shop as `kalvet-plan/1` and its dates as `kalvet-schedule/1` (docs/plan-format.md). */
export interface PlanFiles {
  readonly problem: PlanProblem;
  readonly schedule: Schedule;
}

/** The plan problem of the live shop, and the plan as it is kept from the one in use, so that anybody can check or replan it. */
export async function planFiles(store: Store, now: Instant): Promise<PlanFiles> {
  const { snapshot } = await planSnapshot(store, now);
  const { problem, schedule } = planAsIs(snapshot).plan;
  return { problem, schedule };
}
