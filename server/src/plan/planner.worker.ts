// Plans in a thread of its own, with connections of its own; the server goes on answering meanwhile. One job after another.
import { constants, setPriority } from 'node:os';
import { parentPort, workerData } from 'node:worker_threads';
import { connect } from '../db/connection.ts';
import { defineModels } from '../db/tables.ts';
import { workOff } from '../write/work-thread.ts';
import { makePlan } from './make-plan.ts';
import type { PlannerJob } from './planner-job.ts';
import { whatIf } from './what-if.ts';

const { url, urgent } = workerData as { readonly url: string; readonly urgent: boolean };
// Who waits for a screen goes before a plan that is made better. On Linux this is of the thread alone, elsewhere of the
// whole process, which is not wanted.
if (process.platform === 'linux' && !urgent) setPriority(constants.priority.PRIORITY_LOW);
const db = connect(url, { patient: true });
const store = { db, models: defineModels(db) };

workOff<PlannerJob>(parentPort!, ({ now, ask, effort = 0 }) =>
  ask ? whatIf(store, now, ask.stepId, ask.outcome) : makePlan(store, now, { effort }),
);
