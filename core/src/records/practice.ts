import type { Instant } from '../units/instant.ts';
import type { Text } from '../units/words.ts';
import type { Id } from './common.ts';

/** A tree of a rehearsal by its wall: 3.5, 5 or 8 mm. */
export type PracticeTree = 'thin' | 'usual' | 'thick';

/** Something that happens while it is poured, seconds after the beginning. */
export interface PracticeEvent {
  readonly atS: number;
  readonly text: string;
  /** Whose tree, by its turn; of all where absent. */
  readonly order?: number;
}

/** What a rehearsal is about, as data. */
export interface Scenario {
  readonly id: string;
  readonly title: string;
  /** What the crew is told beforehand. */
  readonly about: string;
  readonly trees: readonly PracticeTree[];
  /** How far the metal is from what the furnace should have, K. */
  readonly metalOffK: number;
  /** How hot shells leave the kiln, °C. */
  readonly kilnC: number;
  /** Turns of trees that are wet or cracked, and when each is seen. */
  readonly wet: readonly number[];
  readonly cracked: readonly number[];
  /** Stretches in which nobody should pour, seconds after the beginning, and why. */
  readonly closed: readonly { readonly fromS: number; readonly toS: number; readonly why: string }[];
  readonly events: readonly PracticeEvent[];
  /** What the stand-in pyrometer does: chance a reading of a wrong unit and of falling silent. */
  readonly wrongUnit: number;
  readonly dropout: number;
}

/** What came of a tree, by the same formulas as in earnest. */
export interface PracticeOutcome {
  readonly treeId: Id;
  readonly label: string;
  readonly order: number;
  readonly came: 'filled' | 'cold laps' | 'draws' | 'short' | 'run out' | 'metal thrown' | 'left out';
  /** What was decided of it was right: poured what could be, left out what could not. */
  readonly right: boolean;
  readonly nearMiss: boolean;
  readonly why: Text;
}

export interface PracticeAnswer {
  readonly scenario: Pick<Scenario, 'id' | 'title' | 'about'>;
  readonly heatId: Id;
  readonly now: Instant;
  /** When the crew said begin; null before. */
  readonly startedAt: Instant | null;
  /** What has happened so far, the newest last. */
  readonly events: readonly PracticeEvent[];
  /** Once every tree is said. */
  readonly outcome: readonly PracticeOutcome[] | null;
}
