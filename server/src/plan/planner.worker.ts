// Runs one planning in a thread of its own, with a connection of its own; the server goes on answering meanwhile.
import { parentPort, workerData } from 'node:worker_threads';
import type { Instant } from '@kalvet/core';
import { connect } from '../db/connection.ts';
import { defineModels } from '../db/tables.ts';
import { makePlan } from './make-plan.ts';

const { url, now } = workerData as { url: string; now: Instant };
const db = connect(url);
try {
  parentPort?.postMessage(await makePlan({ db, models: defineModels(db) }, now));
} finally {
  await db.close();
}
