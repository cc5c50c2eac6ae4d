import type { MessagePort } from 'node:worker_threads';
import { Worker } from 'node:worker_threads';
import { Problem } from './problem.ts';

const HEAP_MB = 1024;
/** A job that takes longer has gone wrong; its thread is ended with it. */
const LONGEST_MS = 180_000;

/** What a thread says of a job: its value, what refuses it, or what went wrong. */
export type ThreadSaid =
  | { readonly id: number; readonly value: unknown }
  | { readonly id: number; readonly problem: Pick<Problem, 'code' | 'says' | 'extra'> }
  | { readonly id: number; readonly error: string };

interface Waiting {
  readonly resolve: (value: never) => void;
  readonly reject: (error: Error) => void;
  readonly late: NodeJS.Timeout;
}

/**
 * A thread for heavy work, kept with its connections from one job to the next; begun with the first, and again after it broke.
 * The server goes on answering meanwhile.
 */
export class WorkThread<Job extends object> {
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
  run<T>(job: Job): Promise<T> {
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
      else if ('problem' in said) found?.reject(new Problem(said.problem.code, said.problem.says, said.problem.extra));
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
        reject(new Error(why || `a thread ended with ${code}`));
      }
      this.waiting.clear();
    });
    return worker;
  }
}

/** Works off the jobs of a thread, one after another, inside it. */
export function workOff<Job>(port: MessagePort, work: (job: Job) => Promise<unknown>): void {
  let before: Promise<unknown> = Promise.resolve();
  port.on('message', ({ id, ...job }: { readonly id: number } & Job) => {
    before = before
      .then(() => work(job as Job))
      .then(
        (value): ThreadSaid => ({ id, value }),
        (error: Error): ThreadSaid =>
          error instanceof Problem
            ? { id, problem: { code: error.code, says: error.says, extra: error.extra } }
            : { id, error: error.message },
      )
      .then((said) => port.postMessage(said));
  });
}
