// Runs one planning in a thread of its own, with a connection of its own; the server goes on answering meanwhile.
import { constants, setPriority } from 'node:os';
import { parentPort, workerData } from 'node:worker_threads';
import type { Id, Instant } from '@kalvet/core';
import { connect } from '../db/connection.ts';
import { defineModels } from '../db/tables.ts';
import { makePlan } from './make-plan.ts';
import { whatIf } from './what-if.ts';

interface Job {
  readonly url: string;
  readonly now: Instant;
  /** How long a plan is made better. */
  readonly seconds?: number;
  /** A question instead of a plan: what would an outcome do to the dates? */
  readonly ask?: { readonly stepId: Id; readonly outcome: string };
}

const { url, now, ask, seconds = 0 } = workerData as Job;
// Who waits for a screen goes before a plan that is made better. On Linux this is of the thread alone, elsewhere of the
// whole process, which is not wanted.
if (process.platform === 'linux' && !ask) setPriority(constants.priority.PRIORITY_LOW);
const db = connect(url, { patient: true });
try {
  const store = { db, models: defineModels(db) };
  parentPort?.postMessage(
    ask ? await whatIf(store, now, ask.stepId, ask.outcome, { seconds }) : await makePlan(store, now, { seconds }),
  );
} finally {
  await db.close();
}
