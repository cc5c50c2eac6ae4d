import { signal } from '@angular/core';
import type { ModelSizing } from '@kalvet/core';
import type { ModelAnswers, ModelJobKind, ModelQuestions } from '@kalvet/core/weigh/index';
import { Cancelled, MeshFault, NOT_KEPT } from '@kalvet/core/weigh/index';
import { kernelUrl, modelWorker } from './model-worker';

/** A question without what every question of a session says. */
type Asked<K extends ModelJobKind> = Omit<ModelQuestions[K], 'bytes' | 'name' | 'keep' | 'unit' | 'scale' | 'wasmUrl'>;

/**
 * One model under work: its bytes are sent to the worker once and held there, while question after question is asked about
 * it. A question that nobody waits for any more ends the worker; the next one sends the bytes again.
 */
export class ModelSession {
  private readonly worker = modelWorker();
  private stop: (() => void) | undefined;
  readonly busy = signal('');
  readonly share = signal(0);
  readonly wrong = signal('');
  /** It failed for want of memory, not because of the file. */
  readonly tooLarge = signal(false);

  constructor(
    readonly name: string,
    private readonly bytes: Uint8Array,
    /** Stands for these bytes: the same file has the same. */
    private readonly key: string,
  ) {}

  /**
   * Asks about the model at a size. What goes wrong is said in `wrong`, and is undefined; so is what was stopped.
   * @param sizing unit and scale; none for what is asked before they are known
   */
  async run<K extends ModelJobKind>(
    kind: K,
    asked: Asked<K>,
    sizing?: Pick<ModelSizing, 'unit'> & { readonly scale: number },
  ): Promise<ModelAnswers[K] | undefined> {
    this.cancel();
    this.wrong.set('');
    this.share.set(0);
    this.busy.set('reading the file');
    const question = (bytes: Uint8Array) =>
      ({
        ...asked,
        ...sizing,
        bytes,
        name: this.name,
        keep: this.key,
        wasmUrl: kernelUrl(),
      }) as unknown as ModelQuestions[K];
    const ask = (bytes: Uint8Array) =>
      this.worker.run(
        kind,
        question(bytes),
        (share, what) => {
          this.share.set(share);
          this.busy.set(what);
        },
        (stop) => (this.stop = stop),
      );
    try {
      return await ask(new Uint8Array()).catch((failure: unknown) => {
        if (failure instanceof MeshFault && failure.message === NOT_KEPT) return ask(this.bytes);
        throw failure;
      });
    } catch (failure) {
      if (failure instanceof Cancelled) return undefined;
      const isKnown = failure instanceof MeshFault;
      this.tooLarge.set(!isKnown);
      this.wrong.set(
        isKnown
          ? sentence(failure.message)
          : 'The model could not be worked out here: this browser has too little memory for it.',
      );
      return undefined;
    } finally {
      this.stop = undefined;
      this.busy.set('');
    }
  }

  /** Stops what is being worked out. */
  cancel(): void {
    this.stop?.();
    this.stop = undefined;
  }

  end(): void {
    this.worker.end();
  }
}

const sentence = (words: string): string => `${words.charAt(0).toUpperCase()}${words.slice(1)}.`;
