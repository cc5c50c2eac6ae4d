import type { Text } from '../units/words.ts';
import type { Asked } from './expectation.ts';

/** A rule passed on purpose, and why. */
export interface Override {
  readonly rule: string;
  readonly reason: string;
}

export type ErrorCode =
  | 'invalid'
  | 'not found'
  | 'stale'
  | 'refused'
  | 'key used'
  | 'unavailable'
  | 'sign in'
  | 'may not'
  | 'wait'
  | 'foreign'
  | 'too large'
  | 'failed';

/** The body of every answer that is not a success. */
export interface ErrorAnswer {
  readonly error: {
    readonly code: ErrorCode;
    readonly message: string;
    /** What is wrong, field by field. */
    readonly fields?: Readonly<Record<string, string>>;
    readonly rule?: string;
    /** Seconds until it may be tried again. */
    readonly waitS?: number;
    readonly mayOverride?: boolean;
    readonly refusals?: readonly {
      readonly rule: string;
      readonly message: string;
      readonly mayOverride: boolean;
      /** The same as data, for the reader's units. */
      readonly says?: Text;
      /** An unlikely reading, asked about once. */
      readonly asks?: Asked;
    }[];
    /** What is wrong, field by field, as data. */
    readonly saysOf?: Readonly<Record<string, Text>>;
    readonly current?: unknown;
    readonly yours?: unknown;
  };
}

export interface EventAnswer {
  /** The change number, by which a wrong record is taken back. */
  readonly change: number;
  /** It can be taken back; what sets up works and people is changed instead. */
  readonly takesBack?: boolean;
  readonly flags?: readonly string[];
}
