import type { Id } from '../records/common.ts';
import { never } from '../records/refusal.ts';
import type { SavePin } from '../records/route.ts';
import { update } from '../records/shop.ts';
import type { Step } from '../records/step.ts';
import { isOpen } from '../records/step.ts';
import { stepLabel } from '../route/labels.ts';
import type { ShopIndex } from '../route/shop-index.ts';
import { roomOfStep } from '../route/standing.ts';
import { PLANNED_AHEAD_MINUTES, toMs } from '../units/instant.ts';
import { at, say } from '../units/words.ts';
import type { Act, Doing } from './act.ts';
import { concernsOf, invalidAct, refusedAct } from './act.ts';

/** Says when a step shall be done, not before an instant or exactly at it, or takes that off again. */
export function pinStep(index: ShopIndex, step: Step, { kind, at: when }: SavePin, doing: Doing): Act<{ stepId: Id }> {
  const label = stepLabel(index, step);
  if (!isOpen(step) || step.state === 'running') return refusedAct([never('closed', say`${label} is ${step.state}.`)]);
  if (kind === 'at' && when !== null && when < doing.now) return invalidAct({ at: 'lies behind us' });
  if (when !== null && toMs(when) - toMs(doing.now) > PLANNED_AHEAD_MINUTES * 60_000)
    return invalidAct({ at: 'lies further ahead than anything is planned (three years)' });
  return {
    refusals: [],
    fields: {},
    passed: [],
    ops: [update('steps', step.id, { pinKind: kind, pinAt: when })],
    answer: { stepId: step.id },
    tell: () => ({
      event: {
        verb: 'pin step',
        text: kind && when ? say`${label}: pinned ${kind} ${at(when)}` : say`${label}: pin taken off`,
        room: roomOfStep(index, step),
      },
      concerns: concernsOf(index, step),
    }),
  };
}
