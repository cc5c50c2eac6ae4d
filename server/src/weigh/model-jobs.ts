import type { Id, Instant, ModelJob, ModelJobAnswer } from '@kalvet/core';
import type { ModelWorker } from '@kalvet/core/weigh/index';
import { Cancelled, MeshFault } from '@kalvet/core/weigh/index';
import { Op } from 'sequelize';
import sharp from 'sharp';
import { rowsOf } from '../db/rows.ts';
import { AS_IT_CAME, readChunks } from '../files/chunks.ts';
import { newId } from '../write/new-id.ts';
import type { Store } from '../write/store.ts';

/** A job as it is kept: whichever server takes it says so by its lease. */
export interface JobRow extends ModelJob {
  readonly leaseUntil: Instant | null;
  readonly leasedBy: Id | null;
  readonly attempts: number;
  readonly byId: Id | null;
  readonly at: Instant;
}

/** A server that died in the middle gives its job up after so long; it is begun again so often. */
const LEASE_MS = 20_000;
const BEAT_MS = 1000;
const MOST_ATTEMPTS = 3;
const LOOK_MS = 2000;
const KEPT_MS = 24 * 3_600_000;
/** Pictures of it, since a browser without memory for the model cannot draw it. */
const VIEWS = [
  { from: [0, -1, 0], up: [0, 0, 1] },
  { from: [-1, 0, 0], up: [0, 0, 1] },
  { from: [0, 1, 0], up: [0, 0, 1] },
  { from: [0, 0, 1], up: [0, 1, 0] },
] as const;
const LOOK = { width: 420, height: 320 };

/** Measures models that a browser has no memory for, one after another, in a thread: with the same figures. */
export class ModelJobs {
  private readonly self = newId();
  private timer: NodeJS.Timeout | undefined;
  private working = false;

  constructor(
    private readonly store: Store,
    private readonly worker: ModelWorker,
    private readonly now: () => number = Date.now,
  ) {}

  start(): void {
    this.timer = setInterval(() => void this.look().catch(() => undefined), LOOK_MS);
    this.timer.unref();
  }

  stop(): void {
    clearInterval(this.timer);
    this.worker.end();
  }

  /** Takes the next job that nobody works on, and does it. @returns whether there was one */
  async look(): Promise<boolean> {
    if (this.working) return false;
    this.working = true;
    try {
      const job = await this.take();
      if (job) await this.work(job);
      return job !== undefined;
    } finally {
      this.working = false;
    }
  }

  /** The first job that waits, or whose server has gone; of two servers one gets it. */
  private async take(): Promise<JobRow | undefined> {
    const now = new Date(this.now());
    const free = { [Op.or]: [{ state: 'waiting' }, { state: 'running', leaseUntil: { [Op.lt]: now } }] };
    const [next] = (await rowsOf<JobRow>(this.store, 'modelJobs', free)).sort((a, b) => a.at.localeCompare(b.at));
    if (!next) return undefined;
    if (next.attempts >= MOST_ATTEMPTS) {
      await this.put(next.id, {
        state: 'failed',
        error: 'It was begun three times and never ended: the model is too much for this machine.',
      });
      return undefined;
    }
    const [count] = await this.store.models.modelJobs.update(
      {
        ...{ state: 'running', leasedBy: this.self, attempts: next.attempts + 1 },
        leaseUntil: new Date(this.now() + LEASE_MS),
      } as never,
      { where: { id: next.id, attempts: next.attempts, ...free } as never },
    );
    return count === 1 ? next : undefined;
  }

  private async work({ id, contentId, name, question }: JobRow): Promise<void> {
    let said = { share: 0, what: 'reading the file' };
    let stop: (() => void) | undefined;
    const beat = setInterval(() => {
      void this.beat(id, said).then((wanted) => wanted || stop?.());
    }, BEAT_MS);
    try {
      const parts: Buffer[] = [];
      for await (const part of readChunks(this.store, contentId, AS_IT_CAME)) parts.push(part);
      const source = { ...question, name, bytes: new Uint8Array(Buffer.concat(parts)), keep: contentId };
      const tell = (share: number, what: string) => (said = { share, what });
      const { measured } = await this.worker.run('look', source, tell, (cancel) => (stop = cancel));
      const pictures: string[] = [];
      for (const view of VIEWS) {
        const asked = { ...source, bytes: new Uint8Array(), view, look: LOOK };
        const pixels = await this.worker.run('picture', asked, tell, (cancel) => (stop = cancel));
        const raw = { width: pixels.width, height: pixels.height, channels: 4 as const };
        const png = await sharp(Buffer.from(pixels.data.buffer), { raw }).png().toBuffer();
        pictures.push(`data:image/png;base64,${png.toString('base64')}`);
      }
      const answer: ModelJobAnswer = { measured, pictures };
      await this.put(id, { state: 'done', share: 1, what: '', answer });
    } catch (failure) {
      if (failure instanceof Cancelled) return;
      const error = failure instanceof MeshFault ? failure.message : 'The model is too much for this machine, too.';
      if (!(failure instanceof MeshFault)) console.error(`measuring ${name}:`, (failure as Error).message);
      await this.put(id, { state: 'failed', error });
    } finally {
      clearInterval(beat);
    }
  }

  /** Says how far it is, and that somebody works on it. @returns whether it is still wanted */
  private async beat(id: Id, said: { share: number; what: string }): Promise<boolean> {
    const [count] = await this.store.models.modelJobs.update(
      { ...said, leaseUntil: new Date(this.now() + LEASE_MS) } as never,
      { where: { id, state: 'running', leasedBy: this.self } as never },
    );
    return count === 1;
  }

  private async put(id: Id, with_: Partial<JobRow>): Promise<void> {
    await this.store.models.modelJobs.update(with_ as never, { where: { id, state: { [Op.ne]: 'stopped' } } as never });
  }
}

/** Lets go of jobs whose answers nobody fetched any more. */
export const dropOldJobs = (store: Store): Promise<number> =>
  store.models.modelJobs.destroy({ where: { at: { [Op.lt]: new Date(Date.now() - KEPT_MS) } } as never });
