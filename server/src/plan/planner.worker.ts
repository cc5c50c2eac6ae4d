// Plans in a thread of its own, with connections of its own; the server goes on answering meanwhile. One job after another.
import { constants, setPriority } from 'node:os';
import { parentPort, workerData } from 'node:worker_threads';
import { connect } from '../db/connection.ts';
import { defineModels } from '../db/tables.ts';
import { workOff } from '../write/work-thread.ts';
import { answerQuestion } from './answer-question.ts';
import { makePlan } from './make-plan.ts';
import type { PlannerJob } from './planner-job.ts';

const { url, urgent } = workerData as { readonly url: string; readonly urgent: boolean };
// Who waits for a screen goes before a plan that is made better. On Linux this is of the thread alone, elsewhere of the
// whole process, which is not wanted.
if (process.platform === 'linux' && !urgent) setPriority(constants.priority.PRIORITY_LOW);
const db = connect(url, { patient: true });
const store = { db, models: defineModels(db) };

workOff<PlannerJob>(parentPort!, ({ now, question, effort = 0 }) =>
  question ? answerQuestion(store, now, question) : makePlan(store, now, { effort }),
);
