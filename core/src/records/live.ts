import type { Id, Room } from './common.ts';

export interface ChangeMessage {
  readonly change: number;
  readonly rooms: readonly Room[];
  readonly pieces: readonly Id[];
}
