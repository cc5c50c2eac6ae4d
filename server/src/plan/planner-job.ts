import type { Id, Instant } from '@kalvet/core';

/** What a planner's thread is told to do. */
export interface PlannerJob {
  readonly now: Instant;
  /** A question instead of a plan: what would an outcome do to the dates? */
  readonly ask?: { readonly stepId: Id; readonly outcome: string };
  /** How many of the usual tries a plan is made better with. */
  readonly effort?: number;
}
