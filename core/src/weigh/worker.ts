import { Cancelled, MeshFault } from '../mesh/fault.ts';
import { runModelJob } from './jobs.ts';
import type { ModelAnswers, ModelJobKind, ModelQuestions } from './jobs.ts';

/** What goes to the worker and what comes back. */
interface Asked {
  readonly id: number;
  readonly kind: ModelJobKind;
  readonly question: ModelQuestions[ModelJobKind];
}
type Told =
  | { readonly id: number; readonly share: number; readonly what: string }
  | { readonly id: number; readonly answer: unknown }
  | { readonly id: number; readonly fault: string; readonly isOwn: boolean };

/** The worker's side of its channel: a browser's worker scope or a thread's parent port. */
export interface JobsPort {
  post(message: unknown): void;
  listen(hear: (message: unknown) => void): void;
}

/** Between two words about progress lie at least so many changes of the share. */
const LEAST_NEWS = 0.01;

/** Answers jobs on models that come over a channel, one after another. To stop one, end the worker: it holds nothing else. */
export function serveModelJobs(port: JobsPort): void {
  let last = Promise.resolve();
  port.listen((message) => {
    const { id, kind, question } = message as Asked;
    last = last.then(async () => {
      let said = -1;
      const onProgress = (share: number, what: string) => {
        if (Math.abs(share - said) < LEAST_NEWS) return;
        said = share;
        port.post({ id, share, what } satisfies Told);
      };
      try {
        port.post({ id, answer: await runModelJob(kind, question, { onProgress }) } satisfies Told);
      } catch (error) {
        port.post({ id, fault: (error as Error).message, isOwn: error instanceof MeshFault } satisfies Told);
      }
    });
  });
}

/** A worker as the browser and Node have it, as far as it is needed here. */
export interface WorkerLike {
  post(message: unknown): void;
  /** Hears what the worker says, and its breakdown. */
  listen(hear: (message: unknown) => void, broken: (error: unknown) => void): void;
  end(): void;
}

interface Waiting {
  readonly asked: Asked;
  readonly hear: (told: Told) => void;
  readonly fail: (error: unknown) => void;
}

/**
 * Does jobs on models in a worker of its own, which is started with the first job. A job that is cancelled ends the
 * worker at once, whatever it was in the middle of; the other jobs begin anew in another.
 */
export class ModelWorker {
  private worker: WorkerLike | undefined;
  private next = 1;
  private readonly waiting = new Map<number, Waiting>();

  constructor(private readonly start: () => WorkerLike) {}

  /**
   * @param onProgress hears the share done, 0 to 1, and what is being done
   * @param whenCancelled is handed a function that stops the job
   * @throws MeshFault where the file or the question is wrong; Cancelled where it was stopped
   */
  run<K extends ModelJobKind>(
    kind: K,
    question: ModelQuestions[K],
    onProgress?: (share: number, what: string) => void,
    whenCancelled?: (cancel: () => void) => void,
  ): Promise<ModelAnswers[K]> {
    const id = this.next++;
    const asked: Asked = { id, kind, question };
    return new Promise((resolve, fail) => {
      const hear = (told: Told) => {
        if ('share' in told) {
          onProgress?.(told.share, told.what);
          return;
        }
        this.waiting.delete(id);
        if ('answer' in told) resolve(told.answer as ModelAnswers[K]);
        else fail(told.isOwn ? new MeshFault(told.fault) : new Error(told.fault));
      };
      this.waiting.set(id, { asked, hear, fail });
      whenCancelled?.(() => this.cancel(id));
      this.running().post(asked);
    });
  }

  /** Ends the worker. Jobs that wait are cancelled. */
  end(): void {
    this.breakOff(new Cancelled());
  }

  private cancel(id: number): void {
    const job = this.waiting.get(id);
    if (!job) return;
    this.waiting.delete(id);
    this.worker?.end();
    this.worker = undefined;
    job.fail(new Cancelled());
    for (const { asked } of this.waiting.values()) this.running().post(asked);
  }

  private running(): WorkerLike {
    if (this.worker) return this.worker;
    const worker = this.start();
    worker.listen(
      (message) => this.worker === worker && this.waiting.get((message as Told).id)?.hear(message as Told),
      (error) => this.worker === worker && this.breakOff(error),
    );
    return (this.worker = worker);
  }

  private breakOff(reason: unknown): void {
    this.worker?.end();
    this.worker = undefined;
    const jobs = [...this.waiting.values()];
    this.waiting.clear();
    for (const { fail } of jobs) fail(reason);
  }
}
