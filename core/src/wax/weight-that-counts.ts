import type { Weight } from '../records/wax.ts';
import type { Instant } from '../units/instant.ts';
import { toMs } from '../units/instant.ts';

const newer = (a: Weight, b: Weight): number => toMs(b.at) - toMs(a.at) || (a.id < b.id ? 1 : -1);

/**
 * Which of several weights counts. Void ones and those from before the thing was last changed do not; of one way of knowing
 * only the newest does; then the smallest relative uncertainty, then the newest. None is erased.
 *
 * In other words: weighed twice, the second weighing counts, also where it is lighter.
 *
 * @param weights of one thing, of one sort (wax, or cast)
 * @param changedAt when the thing was last changed; null where it never was
 * @returns undefined where none counts
 */
export function weightThatCounts(weights: readonly Weight[], changedAt: Instant | null = null): Weight | undefined {
  const standing = weights
    .filter(({ voidReason, at }) => voidReason === null && (changedAt === null || toMs(at) >= toMs(changedAt)))
    .sort(newer);
  const ofEachKind = standing.filter(({ kind }, place) => standing.findIndex((each) => each.kind === kind) === place);
  return ofEachKind.sort((a, b) => a.plusMinusKg / a.kg - b.plusMinusKg / b.kg || newer(a, b))[0];
}
