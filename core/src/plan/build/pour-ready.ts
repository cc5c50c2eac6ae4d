import type { Id } from '../../records/common.ts';
import { isOpen } from '../../records/step.ts';
import { chainOf } from '../../route/chain.ts';
import type { ShopIndex } from '../../route/shop-index.ts';
import { piecesOfStep } from '../../route/standing.ts';
import { counted } from '../../shop/act.ts';
import { indexShop } from '../../shop/index-shop.ts';
import type { Text } from '../../units/words.ts';
import { joined } from '../../units/words.ts';
import { compile } from '../compile.ts';
import { endOf } from '../openings.ts';
import { relax } from '../relax.ts';
import { buildProblem } from './build.ts';
import type { PlanSnapshot } from './snapshot.ts';

/** When a tree can be poured at the soonest, and what is still to be done of it until then. */
export interface PourReady {
  /** In plan minutes, by what is left to do, its waits and hours, were there always hands and room; null where nobody can tell. */
  readonly from: number | null;
  /** `3 coats, dewax and fire, leak test`; nothing where it only waits for its heat. */
  readonly needs: Text;
  /** Why it does not go on at all, where it does not. */
  readonly held: string | null;
}

/**
 * From when trees could be poured, whatever heats they are planned in: a heat before that cannot happen with them.
 * @param snapshot the shop, or the part of it that these trees hang on
 * @param treeIds trees that have a pour before them; others are left out
 */
export function pourReady(snapshot: PlanSnapshot, treeIds: readonly Id[]): Map<Id, PourReady> {
  const { previous: _, ...fresh } = snapshot;
  const heats = snapshot.index.shop.heats.map((heat) => ({ ...heat, plannedFor: null }));
  const index = indexShop({ ...snapshot.index.shop, heats });
  const { problem } = buildProblem({ ...fresh, index });
  const compiled = compile({ ...problem, links: problem.links.map(({ maxLag: _most, ...link }) => link) });
  const { starts } = relax(compiled);
  const placeOf = new Map(compiled.tasks.map(({ id, place }) => [id, place]));
  return new Map(
    treeIds.flatMap((treeId): [Id, PourReady][] => {
      const pour = chainOf(index, treeId).find((step) => index.kind(step).through === 'heat' && isOpen(step));
      if (!pour) return [];
      const place = placeOf.get(pour.id);
      const rest = { needs: needsOf(index, treeId), held: heldBy(index, treeId) };
      if (place === undefined) return [[treeId, { from: null, ...rest }]];
      const before = compiled.into[place]!.map(({ from, minLag }) => {
        const { open, spans, duration } = compiled.tasks[from]!;
        return endOf(open, spans, starts[from]!, duration) + minLag;
      });
      const from = Math.max(compiled.tasks[place]!.earliest, ...before);
      return [[treeId, { from: Number.isFinite(from) ? from : null, ...rest }]];
    }),
  );
}

function needsOf(index: ShopIndex, treeId: Id): Text {
  const chain = chainOf(index, treeId);
  const end = chain.findIndex((step) => index.kind(step).through === 'heat' && isOpen(step));
  const left = chain.slice(0, end).filter((step) => isOpen(step) && !index.kind(step).aside);
  const coats = left.filter((step) => index.kind(step).coat);
  const names = left.flatMap((step): Text[] => {
    if (!index.kind(step).coat) return [index.kind(step).name.toLowerCase()];
    return step === coats[0] ? [counted(coats.length, 'coat')] : [];
  });
  return joined(names, ', ');
}

/** A tree goes on while any piece in it does. */
function heldBy(index: ShopIndex, treeId: Id): string | null {
  const pieces = piecesOfStep(index, { carrier: 'tree', carrierId: treeId }).map((id) => index.piece.get(id)!);
  const held = pieces.filter(({ state }) => state === 'hold');
  return held.length > 0 && held.length === pieces.length ? (held[0]!.holdReason ?? 'no reason given') : null;
}
