import type { Text } from '../units/words.ts';
import type { Instant } from '../units/instant.ts';
import type { Id } from './common.ts';

/** What deciding does beside being noted: the cast is made anew, or the same step is done again. */
export type AnswerDoes = 'noted' | 'recast' | 'again';

/** One way to decide something, as its step's kind knows it. */
export interface AnswerDef {
  readonly code: string;
  readonly label: string;
  readonly does: AnswerDoes;
}

/** How a person decided what a step asked. */
export interface Decided {
  readonly answer: string;
  readonly by: Id | null;
  readonly at: Instant;
}

/** Something that waits for a person's judgement, as it is kept ready. */
export interface Decision {
  readonly text: Text;
  readonly urgent: boolean;
  /** What it costs, in a founder's words: days, kilograms. */
  readonly costs: Text;
  /** The days that are at stake; the dearest question comes first. */
  readonly days: number;
  /** The step that asks, and about which cast, with the ways to decide it. */
  readonly stepId?: Id;
  readonly castId?: Id;
  readonly version?: number;
  readonly answers: readonly AnswerDef[];
}

/** A button that decides: a write, or the page on which it is decided. */
export interface Answer {
  readonly label: Text;
  readonly write?: { readonly path: string; readonly method: 'post' | 'put'; readonly body: object };
  readonly open?: { readonly path: string; readonly query?: Readonly<Record<string, string>> };
}

/** One cause, what it costs, and how it can be decided. */
export interface Question {
  /** The same cause keeps its key. */
  readonly key: string;
  readonly text: Text;
  readonly costs: Text;
  readonly days: number;
  readonly urgent: boolean;
  readonly pieceId: Id | null;
  readonly answers: readonly Answer[];
}

/** Deciding what a step asks. */
export interface Decide {
  readonly version: number;
  readonly answer: string;
  readonly castId?: Id | undefined;
}
