import type { SetUpWork } from '@kalvet/core';
import type { WriteRequest } from '../write/write.ts';

/** A work to be set up apart from the server's own thread: plain data, as the request said it. */
export interface SetUpJob {
  readonly request: WriteRequest;
  readonly body: SetUpWork;
  readonly status: number;
}

/** More casts than this are set up apart. */
export const MANY_CASTS = 120;

export const castsOf = ({ editionSize, artistProofs, sections }: SetUpWork): number =>
  (editionSize + artistProofs) * sections.length;
