import { isClosed } from '../records/step.ts';
import type { ShopIndex } from '../route/shop-index.ts';
import { countingWeight, waxOfCast } from '../shop/cast-weights.ts';
import type { Instant } from '../units/instant.ts';
import { listUnder } from '../units/lists.ts';
import { factorKey } from '../wax/own-factor.ts';

/** What a cast weighed as wax and as metal. */
export interface CastPair {
  readonly waxKg: number;
  readonly castKg: number;
  /** When the metal was weighed. */
  readonly at: Instant;
}

/** Of such a cast the metal is not all that the wax was, or more than it: a window cut out, a core, a part cut off. */
const NOT_WHOLE: ReadonlySet<string> = new Set(['window', 'cut off', 'core']);

/** Pairs by alloy and wax, the oldest first. What is not whole, was poured short or is void does not count. */
export function castPairs(index: ShopIndex): Map<string, CastPair[]> {
  const cut = new Set(index.shop.openItems.filter(({ kind }) => NOT_WHOLE.has(kind)).map(({ castId }) => castId));
  const trees = new Set(
    index.shop.pourings.flatMap(({ treeId, outcome }) =>
      outcome === 'short' || outcome === 'run out' ? [treeId] : [],
    ),
  );
  const short = new Set(index.shop.treeCasts.flatMap(({ treeId, castId }) => (trees.has(treeId) ? [castId] : [])));
  const pairs = new Map<string, CastPair[]>();
  for (const cast of index.shop.casts) {
    if (cast.state === 'void' || cut.has(cast.id) || short.has(cast.id)) continue;
    const [wax, metal] = [countingWeight(index, cast.id, 'wax'), countingWeight(index, cast.id, 'cast')];
    const work = index.work.get(index.section.get(cast.sectionId)?.workId ?? '');
    if (!wax || !metal || !work) continue;
    listUnder(pairs, factorKey(work.alloyId, waxOfCast(index, cast.id)), {
      waxKg: wax.kg,
      castKg: metal.kg,
      at: metal.at,
    });
  }
  for (const list of pairs.values()) list.sort((a, b) => (a.at < b.at ? -1 : 1));
  return pairs;
}

/** What a coat added, mm, wherever a wall was measured: since the measure before it, or since there was none. */
export function coatWalls(index: ShopIndex): { readonly at: Instant; readonly value: number }[] {
  const found = index.shop.trees.flatMap(({ id }) => {
    let [coats, last] = [0, 0];
    return (index.stepsOf.get(id) ?? [])
      .filter((step) => index.kind(step).coat && isClosed(step) && step.state === 'done' && step.endedAt !== null)
      .sort((a, b) => (a.endedAt! < b.endedAt! ? -1 : 1))
      .flatMap(({ endedAt, readings }) => {
        coats++;
        const wallMm = readings['wallMm'];
        if (typeof wallMm !== 'number' || wallMm <= last) return [];
        const value = (wallMm - last) / coats;
        [coats, last] = [0, wallMm];
        return [{ at: endedAt!, value }];
      });
  });
  return found.sort((a, b) => (a.at < b.at ? -1 : 1));
}
