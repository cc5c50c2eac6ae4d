import type { Id } from '../records/common.ts';
import type { Op } from '../records/shop.ts';
import { insert, update } from '../records/shop.ts';
import { isOpen } from '../records/step.ts';
import type { Cast, Section } from '../records/work.ts';
import type { Instant } from '../units/instant.ts';
import { coatsKept } from '../shell/coats-by-plan.ts';
import { coatsOf, growTree, plannedStep } from './grow.ts';
import { voidOpenSteps } from './lose.ts';
import type { ShopIndex } from './shop-index.ts';
import type { NewId } from './step-kind.ts';
import { castsOfTree, treeOfCast } from './shop-index.ts';

/**
 * What is really joined may differ from what was planned: casts come over from other planned trees (which become void when
 * empty), casts left out get a planned tree of their own, and the coats follow what is on the tree now. Steps that were
 * done never move.
 */
export function joinTree(index: ShopIndex, treeId: Id, castIds: readonly Id[], at: Instant, newId: NewId): Op[] {
  const ops: Op[] = [];
  const wanted = new Set(castIds);
  const before = castsOfTree(index, treeId);
  const sectionsOf = (ids: readonly Id[]): Section[] =>
    ids.flatMap((id) => index.section.get(index.cast.get(id)?.sectionId ?? '') ?? []);

  const emptied = new Map<Id, number>();
  for (const castId of wanted) {
    const from = treeOfCast(index, castId);
    const membership = (index.treesOf.get(castId) ?? []).find((member) => member.until === null);
    if (from?.id === treeId) {
      ops.push(update('treeCasts', membership!.id, { since: at }));
      continue;
    }
    if (from && membership) {
      ops.push(update('treeCasts', membership.id, { until: at }));
      emptied.set(from.id, (emptied.get(from.id) ?? 0) + 1);
    }
    ops.push(insert('treeCasts', { id: newId(), treeId, castId, since: at, until: null, version: 1 }));
  }
  for (const [fromId, taken] of emptied) {
    if (castsOfTree(index, fromId).length === taken)
      ops.push(update('trees', fromId, { state: 'void' }), ...voidOpenSteps(index, fromId));
  }
  for (const cast of before.filter((each) => !wanted.has(each.id))) {
    const membership = (index.treesOf.get(cast.id) ?? []).find((member) => member.until === null)!;
    const work = index.work.get(index.section.get(cast.sectionId)!.workId)!;
    ops.push(
      update('treeCasts', membership.id, { until: at }),
      ...growTree(newId, routeOf(index, cast), work, sectionsOf([cast.id]), [cast.id]),
    );
  }
  const plan = index.shop.coatPlans?.[0];
  const coats = coatsOf(sectionsOf([...wanted]), plan);
  // From here on it keeps the plan that it begins with.
  const kept =
    plan && index.tree.get(treeId)?.method === 'shell'
      ? [update('trees', treeId, { coatPlan: coatsKept(plan, coats) })]
      : [];
  return [...ops, ...kept, ...fitCoats(index, treeId, coats, newId)];
}

const routeOf = (index: ShopIndex, { pieceId }: Cast) => index.route(index.piece.get(pieceId)!.routeVersion);

/** Adds or takes away planned coats so that the tree has as many as its highest section needs. */
export function fitCoats(index: ShopIndex, treeId: Id, count: number, newId: NewId): Op[] {
  const coats = (index.stepsOf.get(treeId) ?? []).filter((step) => index.kind(step).coat && step.state !== 'void');
  if (coats.length === 0) return [];
  const highest = Math.max(...coats.map((step) => step.sequence));
  const more = Array.from({ length: Math.max(0, count - highest) }, (_, i) =>
    insert('steps', plannedStep(newId, coats[0]!.kind, 'tree', treeId, { sequence: highest + i + 1 })),
  );
  const fewer = coats
    .filter((step) => step.sequence > count && isOpen(step))
    .map((step) => update('steps', step.id, { state: 'void' }));
  return [...more, ...fewer];
}
