import type { Text } from '../units/words.ts';
import { say } from '../units/words.ts';
import type { Asked } from './expectation.ts';
import { UNLIKELY } from './expectation.ts';

/** Why something is refused: the rule, and what it says, worded at the edge. */
export interface Refusal {
  readonly rule: string;
  readonly message: Text;
  /** Whether a person who may can pass it with a reason. */
  readonly mayOverride: boolean;
  /** It is only a question, answered without a reason. */
  readonly asks?: Asked;
}

/** A rule that nobody can pass. */
export const never = (rule: string, message: Text): Refusal => ({ rule, message, mayOverride: false });
/** A rule that a person who may can pass with a reason. */
export const unless = (rule: string, message: Text): Refusal => ({ rule, message, mayOverride: true });
/** A question about an unlikely reading, which whoever records answers. */
export const askOnce = (asks: Asked): Refusal => ({
  rule: UNLIKELY,
  message: say`${asks.says}. Is it so?`,
  mayOverride: true,
  asks,
});
