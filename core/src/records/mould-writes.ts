import type { Id } from './common.ts';

export interface ChangeMould {
  readonly version: number;
  readonly lifePulls: number | null;
  readonly retire: boolean;
}

export interface AddMould {
  readonly id: Id;
  readonly name: string;
  readonly sectionIds: readonly Id[];
}
