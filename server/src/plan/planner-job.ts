import type { DraftChange, Id, Instant } from '@kalvet/core';

/** A question about dates that is worked out in a thread, and not written anywhere. */
export type PlanQuestion =
  /** What would an outcome do to the dates? */
  | { readonly ask: 'outcome'; readonly stepId: Id; readonly outcome: string }
  /** Why is a piece out when it is, and what would help? */
  | { readonly ask: 'why'; readonly pieceId: Id }
  /** What would these changes do? */
  | { readonly ask: 'draft'; readonly changes: readonly DraftChange[] }
  /** The plan problem of the shop, and the schedule of the plan in use. */
  | { readonly ask: 'files' };

/** What a planner's thread is told to do: to plan, or to answer. */
export interface PlannerJob {
  readonly now: Instant;
  readonly question?: PlanQuestion;
  /** How many of the usual tries a plan is made better with. */
  readonly effort?: number;
}
