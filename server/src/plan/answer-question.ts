import type { Instant } from '@kalvet/core';
import type { Store } from '../write/store.ts';
import { draftOutcome } from './draft-outcome.ts';
import { planFiles } from './plan-files.ts';
import type { PlanQuestion } from './planner-job.ts';
import { whatIf } from './what-if.ts';
import { whyAnswer } from './why.ts';

/** Works a question about dates out. Nothing is written. Runs in a worker thread; it is heavy. */
export function answerQuestion(store: Store, now: Instant, question: PlanQuestion): Promise<object> {
  switch (question.ask) {
    case 'outcome':
      return whatIf(store, now, question.stepId, question.outcome);
    case 'why':
      return whyAnswer(store, now, question.pieceId);
    case 'draft':
      return draftOutcome(store, now, question.changes);
    case 'files':
      return planFiles(store, now);
  }
}
