import type { AskModelJob, Id, ModelJob } from '@kalvet/core';
import { never } from '@kalvet/core';
import type { Server } from '../http/request.ts';
import { rowsOf } from '../db/rows.ts';
import { invalid, notFound, refused } from '../write/problem.ts';
import type { Store } from '../write/store.ts';
import type { JobRow } from './model-jobs.ts';

/** Jobs that one person may have waiting: each takes the machine for a while. */
const MOST_WAITING = 3;

const viewOf = ({ id, contentId, name, question, state, share, what, error, answer }: JobRow): ModelJob => ({
  ...{ id, contentId, name, question, state, share, what, error, answer },
});

/** Asks the server to measure a model that was sent. It is no record of the work: what comes of it is kept by whoever keeps it. */
export async function askJob({ store, now }: Server, personId: Id, given: AskModelJob): Promise<ModelJob> {
  const [content] = await rowsOf<{ kind: string }>(store, 'contents', { id: given.contentId, state: 'kept' });
  if (content?.kind !== 'model') throw invalid({ contentId: 'is no model that is here' });
  const waiting = await rowsOf<JobRow>(store, 'modelJobs', { byId: personId, state: ['waiting', 'running'] });
  if (waiting.length >= MOST_WAITING)
    throw refused([never('busy', 'Three models of yours are being measured already; wait for one, or stop it.')]);
  const fresh = { state: 'waiting', share: 0, what: 'waits for its turn', error: null, answer: null } as const;
  const row = {
    ...given,
    ...fresh,
    leaseUntil: null,
    leasedBy: null,
    attempts: 0,
    byId: personId,
    at: new Date(now()),
  };
  await store.models.modelJobs.create(row as never);
  return { ...given, ...fresh };
}

/** How far one's own job is, and what came of it. @throws Problem where it is not theirs */
export async function jobOf(store: Store, personId: Id, id: Id): Promise<ModelJob> {
  const [job] = await rowsOf<JobRow>(store, 'modelJobs', { id, byId: personId });
  if (!job) throw notFound('measuring');
  return viewOf(job);
}

/** Stops a job that nobody waits for any more; whoever works on it notices within a second. */
export async function stopJob(store: Store, personId: Id, id: Id): Promise<ModelJob> {
  const job = await jobOf(store, personId, id);
  if (job.state === 'waiting' || job.state === 'running')
    await store.models.modelJobs.update({ state: 'stopped' } as never, { where: { id } });
  return jobOf(store, personId, id);
}
