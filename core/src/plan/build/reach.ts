import type { Id } from '../../records/common.ts';
import type { Reach } from '../../records/plan-lanes.ts';
import type { Step } from '../../records/step.ts';
import { isClosed } from '../../records/step.ts';
import { stepLabel } from '../../route/labels.ts';
import { linksOf } from '../../route/links.ts';
import type { ShopIndex } from '../../route/shop-index.ts';
import type { Instant } from '../../units/instant.ts';
import { addMinutes } from '../../units/instant.ts';
import { say } from '../../units/words.ts';

/** When a step is planned. */
type Dates = ReadonlyMap<Id, { readonly startsAt: Instant; readonly endsAt: Instant }>;

/**
 * How far steps that are done together can be moved: not before what leads to them has ended and its wait has passed, and
 * what follows stays where it is as long as they end in time for it.
 * @param dates of the plan in use
 */
export function reachOf(index: ShopIndex, steps: readonly Step[], dates: Dates): Reach {
  const own = new Set(steps.map(({ id }) => id));
  let notBefore: Reach['notBefore'] = null;
  let endBy: Reach['endBy'] = null;
  let tooOldAt: Reach['tooOldAt'] = null;
  for (const { from, to, minLag, maxLag } of linksOf(index)) {
    if (own.has(to.id) && !own.has(from.id)) {
      const ended = isClosed(from) ? from.endedAt : dates.get(from.id)?.endsAt;
      if (!ended) continue;
      const because = minLag > 0 ? say`${stepLabel(index, from)} and its wait` : stepLabel(index, from);
      const at = addMinutes(ended, minLag);
      if (notBefore === null || at > notBefore.at) notBefore = { at, because };
      if (maxLag === null) continue;
      const last = addMinutes(ended, maxLag);
      if (tooOldAt === null || last < tooOldAt.at) tooOldAt = { at: last, because: stepLabel(index, from) };
    } else if (own.has(from.id) && !own.has(to.id)) {
      const start = dates.get(to.id)?.startsAt;
      if (!start) continue;
      const at = addMinutes(start, -minLag);
      if (endBy === null || at < endBy.at) endBy = { at, before: stepLabel(index, to) };
    }
  }
  return { notBefore, endBy, tooOldAt };
}
