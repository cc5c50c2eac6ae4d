import type { Instant } from '../units/instant.ts';
import type { LearnedFigure } from '../units/learned.ts';
import type { Text } from '../units/words.ts';
import type { Versioned } from './piece-writes.ts';
import type { TakenFigure } from './settings.ts';

export const LEARNED_GROUPS = ['cast factor', 'coat', 'yield', 'hours', 'mould life'] as const;
/** What kind of figure the shop learns of itself. */
export type LearnedGroup = (typeof LEARNED_GROUPS)[number];

/** One case behind a learned figure. */
export interface LearnedPoint {
  readonly at: Instant;
  readonly value: number;
}

/** A figure that the shop's own records speak for, beside what is reckoned with. */
export interface LearnedLine {
  /** What it is taken over by: `cast factor C87300 pattern`. */
  readonly id: string;
  readonly group: LearnedGroup;
  readonly name: Text;
  /** What general practice or a formula says; null where there is none. */
  readonly usual: number | null;
  /** What is reckoned with now. */
  readonly inUse: number | null;
  /** What the shop's own cases say; null where there are too few. */
  readonly learned: LearnedFigure | null;
  /** Between what it lies with nine chances in ten, where that can be said. */
  readonly range: readonly [low: number, high: number] | null;
  /** How many of how many were good, where it is a share. */
  readonly good: readonly [good: number, of: number] | null;
  /** What would be reckoned with if it were taken over; null where nobody has to, or nothing would change. */
  readonly offered: number | null;
  /** As it was taken over last. */
  readonly taken: TakenFigure | null;
  /** The newest cases, the oldest first. */
  readonly points: readonly LearnedPoint[];
}

/** What the shop has learned of itself. */
export interface QualityAnswer {
  readonly settingsVersion: number;
  readonly lines: readonly LearnedLine[];
}

/** Takes a learned figure over, as it was seen; or goes back to what was usual. */
export interface TakeFigure extends Versioned {
  readonly line: string;
  readonly back: boolean;
  /** So many cases were seen behind it. */
  readonly n: number;
}
