import type { Instant } from '../units/instant.ts';
import type { Id } from './common.ts';

export const FIRING_STATES = ['planned', 'charged', 'running', 'done', 'abandoned'] as const;

export type FiringState = (typeof FIRING_STATES)[number];

export const LOAD_PURPOSES = ['dewax', 'fire', 'fire-block', 'refire'] as const;

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
  /** The profile that it is fired by; null of loads whose profile is only words. */
  readonly profileId?: Id | null;
  /** Wax that came back of it, kg. */
  readonly waxBackKg?: number | null;
  readonly energyKwh?: number | null;
  readonly reason: string | null;
  readonly version: number;
}

/** A place on the kiln's floor, from its left front corner. */
export interface StandsOn {
  readonly xMm: number;
  readonly yMm: number;
  readonly acrossMm: number;
  readonly deepMm: number;
  readonly turned: boolean;
}

export const PROFILE_USES = ['dewax', 'shell', 'block'] as const;
/** What a profile is for: a block's is slow, and never as hot. */
export type ProfileUse = (typeof PROFILE_USES)[number];

/** A firing of the shop as ramps and holds. */
export interface KilnProfile {
  readonly id: Id;
  readonly name: string;
  readonly use: ProfileUse;
  readonly stretches: readonly {
    readonly toC: number;
    /** K an hour; null as fast as the kiln goes. */
    readonly perHourK: number | null;
    readonly holdMinutes: number;
  }[];
  readonly state: 'in use' | 'put away';
  readonly version: number;
}

/** What a thermocouple of the kiln read in a load. */
export interface KilnRead {
  readonly loadId: Id;
  readonly channel: string;
  readonly at: Instant;
  readonly celsius: number;
}

export interface LoadPlace {
  readonly id: Id;
  readonly loadId: Id;
  readonly treeId: Id;
  readonly outcome: string | null;
  /** Where it stands on the kiln's floor; null where nobody laid it out. */
  readonly floor?: StandsOn | null;
  /** The tree's own step that was recorded with it; null before. */
  readonly stepId: Id | null;
  readonly version: number;
}
