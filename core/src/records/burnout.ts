import type { Instant } from '../units/instant.ts';
import type { Id } from './common.ts';

export const FIRING_STATES = ['planned', 'charged', 'running', 'done', 'abandoned'] as const;

export type FiringState = (typeof FIRING_STATES)[number];

export const LOAD_PURPOSES = ['fire', 'fire-block', 'refire'] as const;

export type LoadPurpose = (typeof LOAD_PURPOSES)[number];

/** A kiln firing with the trees in it. */
export interface Load {
  readonly id: Id;
  readonly number: number;
  readonly purpose: LoadPurpose;
  readonly state: FiringState;
  readonly startedAt: Instant | null;
  readonly endedAt: Instant | null;
  readonly profile: string;
  readonly topC: number | null;
  readonly reason: string | null;
  readonly version: number;
}

export interface LoadPlace {
  readonly id: Id;
  readonly loadId: Id;
  readonly treeId: Id;
  readonly outcome: string | null;
  /** The tree's own step that was recorded with it; null before. */
  readonly stepId: Id | null;
  readonly version: number;
}
