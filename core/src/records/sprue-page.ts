import type { Text } from '../units/words.ts';
import type { Figure } from '../units/figure.ts';
import type { Instant } from '../units/instant.ts';
import type { Id } from './common.ts';
import type { NextStep } from './route.ts';

/** A tree that is waiting for something, for the strip's lists. */
export interface TreeLine extends NextStep {
  readonly pieceIds: readonly Id[];
  readonly alloyId: string;
  readonly pourKg: number | null;
}

export interface TreeView {
  readonly id: Id;
  readonly number: number;
  readonly casts: readonly string[];
  /** Loads and heats that it is or was in. */
  readonly loads: readonly { readonly id: Id; readonly number: number }[];
  readonly heats: readonly { readonly id: Id; readonly number: number }[];
  /** Since when its shell or block is wet; null when it is dry, or has been poured. */
  readonly wetSince: Instant | null;
  readonly pourWeight: Figure | null;
  readonly yield: Figure | null;
  readonly shell: Figure | null;
  readonly dipping: { readonly weight: Figure; readonly tooHeavy: boolean; readonly inWords: Text } | null;
  readonly poured: { readonly weight: Figure; readonly tooHeavy: boolean; readonly inWords: Text } | null;
}
