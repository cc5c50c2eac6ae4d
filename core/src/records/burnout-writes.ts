import type { Instant } from '../units/instant.ts';
import type { Override } from './answers.ts';
import type { KilnProfile } from './burnout.ts';
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
  /** Wax that came back, kg, and what the kiln took. */
  readonly waxBackKg?: number | null;
  readonly energyKwh?: number | null;
  /** Trees that did not come through; all others did. */
  readonly lost: readonly { readonly treeId: Id; readonly why: string }[];
}

export interface PlanLoad {
  readonly id: Id;
  readonly treeIds: readonly Id[];
  /** The profile that it is to be fired by. */
  readonly profileId?: Id | null;
  /** Where it is written up at once. */
  readonly record?: LoadRecord | undefined;
  readonly override?: readonly Override[];
}

export interface RecordLoad extends LoadRecord {
  readonly version: number;
  readonly override?: readonly Override[];
}

/** The kiln is lit for a load. */
export interface LightLoad {
  readonly version: number;
  readonly at: Instant;
  /** Every cup is open, and every shell stands cup down. */
  readonly cupsDown: boolean;
  /** Which are not, and where. */
  readonly cupsNote: string;
  readonly override?: readonly Override[];
}

/** What somebody read off the kiln. */
export interface ReadKiln {
  readonly at: Instant;
  readonly channel: string;
  readonly celsius: number;
}

/** A data logger's file of the kiln. */
export interface ImportKiln {
  readonly name: string;
  readonly text: string;
}

export interface ImportedKiln {
  readonly added: number;
  readonly known: number;
  readonly channels: readonly string[];
  readonly notes: readonly string[];
}

export type SaveProfile = KilnProfile;

/** How much room a tree takes in the kiln, as somebody measured it. */
export interface MeasureTree {
  readonly version: number;
  readonly acrossMm: number;
  readonly deepMm: number;
  readonly highMm: number;
}
