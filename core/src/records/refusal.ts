import type { Text } from '../units/words.ts';

/** Why something is refused: the rule, and what it says, worded at the edge. */
export interface Refusal {
  readonly rule: string;
  readonly message: Text;
  /** Whether a person who may can pass it with a reason. */
  readonly mayOverride: boolean;
}

/** A rule that nobody can pass. */
export const never = (rule: string, message: Text): Refusal => ({ rule, message, mayOverride: false });
/** A rule that a person who may can pass with a reason. */
export const unless = (rule: string, message: Text): Refusal => ({ rule, message, mayOverride: true });
