import type { TreeReady } from '../records/pour.ts';
import type { Refusal } from '../records/refusal.ts';
import { unless } from '../records/refusal.ts';
import type { Instant } from '../units/instant.ts';
import type { Text } from '../units/words.ts';
import { at, say } from '../units/words.ts';

/** Why a tree cannot be poured at an hour, in words; undefined where it can. */
export function notReady(label: string, ready: TreeReady, hour: Instant): Text | undefined {
  const { from, needs, held } = ready;
  if (held !== null && (from === null || from > hour)) return say`${label} is on hold: ${held}`;
  if (from === null) return say`${label}: nobody can tell when it could be poured`;
  if (from <= hour) return undefined;
  return needs === ''
    ? say`${label} can be poured from ${at(from)}`
    : say`${label} can be poured from ${at(from)}: ${needs} before it`;
}

/**
 * A heat is planned with what can be poured in it. Whoever expects a tree to make it all the same passes the rule with a reason.
 * @param hour when the heat is to be poured; of one that should be over by now, the present moment
 */
export function judgeReady(label: string, ready: TreeReady | undefined, hour: Instant): Refusal[] {
  const why = ready && notReady(label, ready, hour);
  return why === undefined ? [] : [unless('ready', say`${why}.`)];
}
