import type { Id } from '../records/common.ts';
import { never } from '../records/refusal.ts';
import type { InsertStep } from '../records/route.ts';
import { insertStep } from '../route/insert-step.ts';
import { carrierLabel, stepName } from '../route/labels.ts';
import type { ShopIndex } from '../route/shop-index.ts';
import { roomOfStep } from '../route/standing.ts';
import { say } from '../units/words.ts';
import type { Act, Doing } from './act.ts';
import { concernsOf, invalidAct, refusedAct } from './act.ts';

/** Puts a step in behind what is done: a repair, rework, an approval, work done elsewhere. */
export function putInStep(index: ShopIndex, given: InsertStep, doing: Doing): Act<{ stepId: Id }> {
  const kind = index.kind(given);
  if (!kind.insertable?.includes(given.carrier))
    return invalidAct({ kind: `${kind.name} is not done to a ${given.carrier}` });
  const ops = insertStep(index, given.carrierId, given.kind, given.why, doing.newId, given.afterId);
  const [made] = ops ?? [];
  if (!ops || made?.op !== 'insert') return refusedAct([never('state', 'There is no step there to follow.')]);
  const { id } = made.row;
  return {
    refusals: [],
    fields: {},
    passed: [],
    ops,
    answer: { stepId: id },
    tell: (after) => {
      const step = after.step.get(id)!;
      return {
        event: {
          verb: 'insert step',
          text: say`${stepName(after, step)} put in for ${carrierLabel(after, step)}: ${given.why}`,
          room: roomOfStep(after, step),
          reason: given.why,
        },
        concerns: concernsOf(after, step),
      };
    },
  };
}
