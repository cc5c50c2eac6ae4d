import type { PlanProblem } from '@kalvet/core';
import { compile } from '../core/src/plan/compile.ts';
import { chance } from '../core/src/plan/engine/chance.ts';
import { JobOffsets } from '../core/src/plan/engine/job-offsets.ts';
import { Search } from '../core/src/plan/engine/search.ts';

/**
 * The yardstick for large crowded shops: the whole schedule is built again and again, task by task in the order of the jobs'
 * priorities; a few priorities are changed each time, and what is not much worse than the best is gone on from.
 * @returns the best objective after each of so many seconds
 */
export function plainSearch(problem: PlanProblem, seconds: readonly number[], seed = 1): number[] {
  const begin = performance.now();
  const compiled = compile(problem);
  const search = new Search(compiled, seed);
  if (search.putFixed().length > 0) return seconds.map(() => Infinity);
  const offsets = new JobOffsets(compiled, search.urgency, chance(seed));
  let best = Infinity;
  return seconds.map((until) => {
    do {
      const span = search.found?.ends.reduce((most, end) => Math.max(most, end), 0) ?? 0;
      if (!search.build({ order: offsets.next(span), thrift: 1 })) continue;
      offsets.learn(search.lastBuilt);
      best = Math.min(best, search.lastBuilt);
    } while (performance.now() < begin + until * 1000);
    return best;
  });
}
