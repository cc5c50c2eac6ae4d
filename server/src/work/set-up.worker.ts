// Sets up works of very many casts in a thread of its own: tens of thousands of rows at once would stop everybody else.
import { parentPort, workerData } from 'node:worker_threads';
import { connect } from '../db/connection.ts';
import { defineModels } from '../db/tables.ts';
import { write } from '../shop/write-shop.ts';
import { workOff } from '../write/work-thread.ts';
import type { SetUpJob } from './set-up-job.ts';
import { setUpWork } from './work.service.ts';

const { url } = workerData as { readonly url: string };
const db = connect(url, { patient: true });
const store = { db, models: defineModels(db) };

workOff<SetUpJob>(parentPort!, ({ request, body, status }) =>
  write(store, request, (ctx) => setUpWork(ctx, body), status),
);
