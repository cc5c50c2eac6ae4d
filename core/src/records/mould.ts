import type { Instant } from '../units/instant.ts';
import type { Id } from './common.ts';

export const MOULD_STATES = ['making', 'good', 'in repair', 'worn', 'retired'] as const;
export type MouldState = (typeof MOULD_STATES)[number];

/** The flexible rubber negative in its rigid jacket. */
export interface Mould {
  readonly id: Id;
  readonly number: number;
  readonly workId: Id;
  readonly name: string;
  readonly sectionIds: readonly Id[];
  readonly state: MouldState;
  /** Life in pulls, the user's figure. */
  readonly lifePulls: number | null;
  /** Pulls made before Kalvet kept count. */
  readonly pullsBefore: number;
  readonly version: number;
}

/** One filling of one mould; it counts on the mould even if it is spoilt. */
export interface Pull {
  readonly id: Id;
  readonly number: number;
  readonly mouldId: Id;
  readonly castIds: readonly Id[];
  readonly startedAt: Instant;
  /** Taken out; null while the wax is still in the mould, which is then in use. */
  readonly endedAt: Instant | null;
  readonly wax: string;
  readonly outcome: 'good' | 'spoilt' | 'void' | null;
  /** The step it was recorded with. */
  readonly stepId: Id | null;
  readonly version: number;
}
