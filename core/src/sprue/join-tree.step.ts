import type { Id } from '../records/common.ts';
import type { ReadingDef } from '../records/readings.ts';
import { num, yes } from '../records/readings.ts';
import type { Refusal } from '../records/refusal.ts';
import { never, unless } from '../records/refusal.ts';
import { update } from '../records/shop.ts';
import { isClosed } from '../records/step.ts';
import type { Cast } from '../records/work.ts';
import { sidesOf } from '../route/chain.ts';
import { joinTree as joinCasts } from '../route/join.ts';
import { castLabel } from '../route/labels.ts';
import type { ShopIndex } from '../route/shop-index.ts';
import { castsOfTree, treeOfCast } from '../route/shop-index.ts';
import { stepKind } from '../route/step-kind.ts';
import { DAY_MIN, HOUR_MIN } from '../units/instant.ts';
import { say } from '../units/words.ts';

const CASTS: ReadingDef = {
  key: 'castIds',
  label: 'Casts on this tree',
  kind: 'casts',
  required: true,
  keptIn: 'tree',
};
const BARS: ReadingDef = { key: 'bars', label: 'Bars', kind: 'bars' };
const CUP: ReadingDef = { key: 'cup', label: 'Cup', kind: 'cup' };
/** The smallest total section on the metal's way: with it the seconds of the pour are worked out. */
const CHOKE = num('chokeMm2', 'Choke, smallest section on the metal’s way', 'mm2', [10, 50_000, 0]);
const TREE_KG = num('treeKg', 'Tree weighs', 'kg', [0.01, 500, 2]);

/** Casts, bars and cup become one tree; what is really joined may differ from what was planned. */
export const joinTree = stepKind({
  code: 'join-tree',
  room: 'sprue',
  name: 'Join tree, wash',
  carrier: 'tree',
  minutes: 90,
  minWait: 2 * HOUR_MIN,
  maxWait: 14 * DAY_MIN,
  readings: [CASTS, BARS, CUP, TREE_KG, CHOKE],
  readingsVersion: 3,
  earlierReadings: { 1: [CASTS, BARS, yes('cup', 'Cup (659 cm³)'), TREE_KG], 2: [CASTS, BARS, CUP, TREE_KG] },
  joinsTree: true,
  facts: (index, step) =>
    step.state === 'planned'
      ? {}
      : { castIds: (index.membersOf.get(step.carrierId) ?? []).flatMap((m) => (m.since === null ? [] : [m.castId])) },
  judge: (index, step, { readings }) =>
    readings['castIds'] === undefined ? [] : judgeCasts(index, step.carrierId, readings['castIds'] as Id[]),
  close: ({ index, step, closing, newId }) => [
    ...joinCasts(
      index,
      step.carrierId,
      (closing.readings['castIds'] ?? castsOfTree(index, step.carrierId).map(({ id }) => id)) as Id[],
      closing.endedAt,
      newId,
    ),
    update('trees', step.carrierId, { state: 'joined' }),
  ],
});

/** What may be joined to one tree: chased waxes of one alloy and one way of investing, not yet shelled elsewhere. */
function judgeCasts(index: ShopIndex, treeId: Id, castIds: readonly Id[]): Refusal[] {
  if (castIds.length === 0) return [never('casts', 'A tree needs at least one cast.')];
  if (new Set(castIds).size !== castIds.length) return [never('casts', 'A cast is on the list twice.')];
  return castIds.flatMap((id) => {
    const cast = index.cast.get(id);
    return cast ? judgeCast(index, treeId, cast) : [never('casts', 'One of the casts does not exist.')];
  });
}

function judgeCast(index: ShopIndex, treeId: Id, cast: Cast): Refusal[] {
  const name = castLabel(index, cast);
  const tree = index.tree.get(treeId)!;
  if (cast.state === 'lost' || cast.state === 'void')
    return [never('lost', say`${name} was lost; a lost cast is not used again.`)];
  const section = index.section.get(cast.sectionId)!;
  const work = index.work.get(section.workId)!;
  if (work.alloyId !== tree.alloyId) return [never('casts', say`${name} is of another alloy: one tree, one alloy.`)];
  if ((section.method === 'block') !== (tree.method === 'block'))
    return [never('casts', say`${name} is invested in another way than this tree.`)];
  const from = treeOfCast(index, cast.id);
  if (
    from &&
    from.id !== treeId &&
    (index.stepsOf.get(from.id) ?? []).some((step) => step.state !== 'planned' && step.state !== 'void')
  )
    return [
      never(
        'casts',
        say`${name} is already on T-${from.number}: a cast may change its tree only until that is joined.`,
      ),
    ];
  const chased = sidesOf(index, cast.id)
    .wax.filter((step) => index.kind(step).weighs === 'wax')
    .at(-1);
  return chased && isClosed(chased) && cast.state === 'wax'
    ? []
    : [unless('order', say`${name} is not chased and weighed yet.`)];
}

/** Whether a cast is in a tree that could take it along, for lists to choose from. */
export const mayJoin = (index: ShopIndex, treeId: Id, cast: Cast): boolean =>
  judgeCast(index, treeId, cast).length === 0;
