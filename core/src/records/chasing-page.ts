import type { Instant } from '../units/instant.ts';
import type { OpenItemEnd, OpenItemKind } from './chasing.ts';
import type { Id } from './common.ts';

/** A line of a cast's ledger as the screens show it. */
export interface OpenItemView {
  readonly id: Id;
  readonly castId: Id;
  readonly cast: string;
  readonly kind: OpenItemKind;
  readonly what: string;
  readonly openedAt: Instant;
  readonly closedAt: Instant | null;
  readonly closedHow: OpenItemEnd | null;
  readonly version: number;
}

export interface AddOpenItem {
  readonly id: Id;
  readonly castId: Id;
  readonly kind: OpenItemKind;
  readonly what: string;
}

export interface CloseOpenItem {
  readonly version: number;
  readonly how: OpenItemEnd;
  readonly note: string;
}
