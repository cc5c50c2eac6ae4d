import type { CoatPlan } from '../records/coat-plan.ts';
import type { Id } from '../records/common.ts';
import type { ChangeTreeCoats } from '../records/shell-writes.ts';
import { never } from '../records/refusal.ts';
import { update } from '../records/shop.ts';
import { isClosed } from '../records/step.ts';
import { fitCoats } from '../route/join.ts';
import { treeLabel } from '../route/labels.ts';
import type { ShopIndex } from '../route/shop-index.ts';
import { piecesOfStep } from '../route/standing.ts';
import { coatsKept } from '../shell/coats-by-plan.ts';
import type { Text } from '../units/words.ts';
import { say } from '../units/words.ts';
import type { Act, Doing } from './act.ts';
import { counted, invalidAct, refusedAct } from './act.ts';

/** What is wrong with a coat plan, field by field. */
export function wrongCoatPlan({ classes, layers }: CoatPlan): Readonly<Record<string, Text>> {
  const wrong: Record<string, Text> = {};
  classes.forEach(({ upToMm, coats }, i) => {
    const before = classes[i - 1];
    if (i === classes.length - 1 ? upToMm !== null : upToMm === null)
      wrong[`classes.${i}.upToMm`] = 'only the last class has no end, and it must have none';
    else if (before && before.upToMm !== null && upToMm !== null && upToMm <= before.upToMm)
      wrong[`classes.${i}.upToMm`] = 'must be above the class before it';
    if (before && coats < before.coats) wrong[`classes.${i}.coats`] = 'taller metal never gets fewer coats';
  });
  layers.forEach(({ untilCoat, slurry, stucco }, i) => {
    const before = layers[i - 1];
    if (i === layers.length - 1 ? untilCoat !== null : untilCoat === null)
      wrong[`layers.${i}.untilCoat`] = 'only the last layer goes on to the end, and it must';
    else if (before && before.untilCoat !== null && untilCoat !== null && untilCoat <= before.untilCoat)
      wrong[`layers.${i}.untilCoat`] = 'must come after the layer before it';
    if (i > 0 && slurry === 'face' && layers[i - 1]!.slurry !== 'face')
      wrong[`layers.${i}.slurry`] = 'the face slurry does not come over a back-up';
    if (stucco === 'none') wrong[`layers.${i}.stucco`] = 'only the seal coat has none';
  });
  return wrong;
}

/** The plans as they are kept after one was saved: another content is the next number of its code. */
export function withPlan(plans: readonly CoatPlan[], given: CoatPlan): readonly CoatPlan[] {
  const before = plans.find(({ code }) => code === given.code);
  const kept: CoatPlan = { ...given, number: before ? before.number + 1 : 1 };
  return before ? plans.map((each) => (each === before ? kept : each)) : [...plans, kept];
}

/** One tree is shelled otherwise than the plan it began with, for a reason. What was dipped stays as it was. */
export function changeTreeCoats(
  index: ShopIndex,
  treeId: Id,
  { planCode, coats, why }: ChangeTreeCoats,
  { newId }: Pick<Doing, 'newId'>,
): Act<{ id: Id }> {
  const tree = index.tree.get(treeId)!;
  const label = treeLabel(index, treeId);
  if (tree.method === 'block') return refusedAct([never('state', say`${label} stands in a block: it has no coats.`)]);
  const own = (index.stepsOf.get(treeId) ?? []).filter((step) => index.kind(step).coat && step.state !== 'void');
  const done = Math.max(0, ...own.filter(isClosed).map(({ sequence }) => sequence));
  if (own.length > 0 && own.every(isClosed)) return refusedAct([never('closed', say`${label} is sealed already.`)]);
  if (coats <= done)
    return invalidAct({ coats: say`${counted(done, 'coat')} are on it already, and the last one seals` });
  const plan = (index.shop.coatPlans ?? []).find(({ code }) => code === planCode);
  if (!plan) return invalidAct({ planCode: 'there is no such coat plan' });
  const kept = { ...coatsKept(plan, coats), why };
  return {
    refusals: [],
    fields: {},
    passed: [],
    ops: [update('trees', treeId, { coatPlan: kept }), ...fitCoats(index, treeId, coats, newId)],
    answer: { id: treeId },
    tell: () => ({
      event: {
        verb: 'change coats',
        text: say`${label}: ${counted(coats, 'coat')} by ${plan.name} ${plan.number}: ${why}`,
        room: 'shell',
        reason: why,
      },
      concerns: [
        ['tree', treeId],
        ...piecesOfStep(index, { carrier: 'tree', carrierId: treeId }).map((id) => ['piece', id] as const),
      ],
    }),
  };
}
