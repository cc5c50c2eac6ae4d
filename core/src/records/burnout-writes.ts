import type { Instant } from '../units/instant.ts';
import type { Override } from './answers.ts';
import type { Id } from './common.ts';

export interface LoadRecord {
  readonly startedAt: Instant | null;
  readonly endedAt: Instant;
  readonly by: readonly Id[];
  readonly profile: string;
  readonly topC: number;
  readonly typed?: Readonly<Record<string, string>>;
  readonly taken?: readonly string[];
  readonly note: string;
  /** Trees that did not come through; all others did. */
  readonly lost: readonly { readonly treeId: Id; readonly why: string }[];
}

export interface PlanLoad {
  readonly id: Id;
  readonly treeIds: readonly Id[];
  /** Where it is written up at once. */
  readonly record?: LoadRecord | undefined;
  readonly override?: readonly Override[];
}

export interface RecordLoad extends LoadRecord {
  readonly version: number;
  readonly override?: readonly Override[];
}
