import type { Id } from '../records/common.ts';
import type { DryingView } from '../records/shell-page.ts';
import type { Step } from '../records/step.ts';
import { isClosed } from '../records/step.ts';
import { chainOf } from '../route/chain.ts';
import { dryingOf, drynessOf, placeNow } from '../route/drying.ts';
import type { ShopIndex } from '../route/shop-index.ts';
import { referenceWaits } from '../route/waits.ts';
import { fromMs, toMs } from '../units/instant.ts';

/** The curve is told at so many moments. */
const POINTS = 24;
const FARTHEST_MS = 3 * 86_400_000;

/** The coat that dries on a tree: the last one that was dipped, while nothing came after it. */
export function greenCoat(index: ShopIndex, treeId: Id): Step | undefined {
  const done = chainOf(index, treeId).filter(isClosed);
  const last = done.at(-1);
  return last && index.kind(last).driesInAir ? last : undefined;
}

/** How the last coat of a tree dries, as its page draws it; null where no coat dries or its air is not known. */
export function dryingView(index: ShopIndex, treeId: Id): DryingView | null {
  const coat = greenCoat(index, treeId);
  if (!coat || coat.endedAt === null || !index.shop.climate) return null;
  const { min } = referenceWaits(index, coat);
  const course = dryingOf(index, coat, min);
  if (!course) return null;
  const begin = toMs(coat.endedAt);
  const end = Math.min(course.dryMs ?? Infinity, begin + FARTHEST_MS);
  const moments = Array.from({ length: POINTS + 1 }, (_, i) => begin + ((end - begin) * i) / POINTS);
  const place = placeNow(index, treeId);
  const hours = (end - begin) / 3_600_000;
  const { referenceK, learned } = index.shop.climate;
  return {
    stepId: coat.id,
    dippedAt: coat.endedAt,
    dryAt: course.dryMs === null ? null : fromMs(course.dryMs),
    points: moments.map((ms) => ({ at: fromMs(ms), share: Number(course.shareAt(ms).toFixed(4)) })),
    placeId: place?.id ?? null,
    referenceMinutes: min,
    referenceK,
    learned,
    airflow: place?.airflow ?? 1,
    meanK:
      hours > 0
        ? Number(
            (((min / 60) * referenceK * learned.factor * (place?.airflow ?? 1) * course.shareAt(end)) / hours).toFixed(
              2,
            ),
          )
        : null,
    looks: drynessOf(index, coat.id).map(({ at, means, dry, share }) => ({ at, means, dry, share })),
  };
}
