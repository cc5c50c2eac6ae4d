/** Something about a model file, or about what was asked of it, that is wrong, in one line for the person who gave it. */
export class MeshFault extends Error {
  override readonly name = 'MeshFault';
}

/** A computation that was stopped because nobody wants it any more. */
export class Cancelled extends Error {
  override readonly name = 'Cancelled';
  constructor() {
    super('stopped');
  }
}

/** How a long computation is followed and stopped; everything is optional. */
export interface Watch {
  /** Called now and then with the share done, 0 to 1, and what is being done in shop words. */
  readonly onProgress?: (share: number, what: string) => void;
  /** Asked now and then; true stops the computation with `Cancelled`. */
  readonly cancelled?: () => boolean;
}

/** Tells where a computation is, and stops it where that is wanted. @throws Cancelled */
export function step(watch: Watch | undefined, share: number, what: string): void {
  if (watch?.cancelled?.()) throw new Cancelled();
  watch?.onProgress?.(share, what);
}
