import { Worker } from 'node:worker_threads';
import type { Id, Instant } from '@kalvet/core';

const HEAP_MB = 1024;
/** A job that takes longer has gone wrong; its thread is ended with it. */
const LONGEST_MS = 180_000;

/** What a planner's thread is told to do. */
export interface ThreadJob {
  readonly now: Instant;
  /** A question instead of a plan: what would an outcome do to the dates? */
  readonly ask?: { readonly stepId: Id; readonly outcome: string };
  /** How long a plan is made better. */
  readonly seconds?: number;
}

/** What a thread says of a job. */
export type ThreadSaid =
  { readonly id: number; readonly value: unknown } | { readonly id: number; readonly error: string };

interface Waiting {
  readonly resolve: (value: never) => void;
  readonly reject: (error: Error) => void;
  readonly late: NodeJS.Timeout;
}

/** A thread that plans, kept with its connections from one job to the next; begun with the first, and again after it broke. */
export class PlannerThread {
  private worker: Worker | undefined;
  private readonly waiting = new Map<number, Waiting>();
  private last = 0;

  /** @param urgent somebody waits for its answers: it does not stand back behind the screens */
  constructor(
    private readonly file: string | URL,
    private readonly url: string,
    private readonly urgent: boolean,
  ) {}

  /** @throws Error where the thread breaks off, or finds that it cannot be done */
  run<T>(job: ThreadJob): Promise<T> {
    const worker = (this.worker ??= this.begin());
    const id = ++this.last;
    return new Promise<T>((resolve, reject) => {
      const late = setTimeout(() => void worker.terminate(), LONGEST_MS);
      this.waiting.set(id, { resolve, reject, late });
      worker.ref();
      worker.postMessage({ id, ...job });
    });
  }

  async stop(): Promise<void> {
    await this.worker?.terminate();
  }

  private begin(): Worker {
    const worker = new Worker(this.file, {
      workerData: { url: this.url, urgent: this.urgent },
      resourceLimits: { maxOldGenerationSizeMb: HEAP_MB },
    });
    worker.on('message', (said: ThreadSaid) => {
      const found = this.waiting.get(said.id);
      this.waiting.delete(said.id);
      clearTimeout(found?.late);
      if ('error' in said) found?.reject(new Error(said.error));
      else found?.resolve(said.value as never);
      // A thread without work keeps no process alive.
      if (this.waiting.size === 0) worker.unref();
    });
    let why = '';
    worker.on('error', (error) => (why = error.message));
    worker.on('exit', (code) => {
      if (this.worker === worker) this.worker = undefined;
      for (const { reject, late } of this.waiting.values()) {
        clearTimeout(late);
        reject(new Error(why || `the planner's thread ended with ${code}`));
      }
      this.waiting.clear();
    });
    return worker;
  }
}
