import type { Step } from '../records/step.ts';
import { isClosed } from '../records/step.ts';
import type { Instant } from '../units/instant.ts';
import { chainOf } from './chain.ts';

const DRIES = new Set(['fire', 'fire-block', 'refire', 'dry']);

const makesWet = (step: Step): boolean =>
  step.kind === 'patch' ||
  step.kind === 'coat' ||
  step.kind === 'invest' ||
  (step.kind === 'leak-test' && step.readings['how'] === 'water');

/**
 * Since when a tree's shell or block is wet, or null. A dip, a patch, an investment or a water test wets it; only a
 * drying or heating step clears it, a test that was passed does not.
 */
export function wetSince(treeSteps: readonly Step[]): Instant | null {
  let since: Instant | null = null;
  for (const step of chainOf(treeSteps)) {
    if (!isClosed(step) || step.state === 'skipped') continue;
    if (makesWet(step)) since ??= step.endedAt;
    else if (DRIES.has(step.kind) && step.state === 'done') since = null;
  }
  return since;
}
