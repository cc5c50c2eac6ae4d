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

/** A step with the pin that it gets. */
export interface Pinned {
  readonly step: Step;
  readonly pin: Pick<SavePin, 'kind' | 'at'>;
}

/** Moves steps together, such as all trees of a kiln load: all of them or none. */
export function pinSteps(index: ShopIndex, pinned: readonly Pinned[], doing: Doing): Act<{ stepIds: readonly Id[] }> {
  const acts = pinned.map(({ step, pin }) => pinStep(index, step, pin, doing));
  const refusals = acts.flatMap((act) => act.refusals);
  const wrong = acts.find(({ fields }) => Object.keys(fields).length > 0);
  if (refusals.length > 0) return refusedAct(refusals);
  if (wrong) return invalidAct(wrong.fields);
  const [first] = pinned;
  return {
    refusals: [],
    fields: {},
    passed: [],
    ops: acts.flatMap(({ ops }) => ops),
    answer: { stepIds: pinned.map(({ step }) => step.id) },
    tell: (after) => {
      const told = acts.map(({ tell }) => tell(after));
      if (told.length === 1) return told[0]!;
      const { kind, at: when } = first!.pin;
      const what = say`${index.kind(first!.step).name} of ${told.length} together`;
      return {
        event: {
          ...told[0]!.event,
          text: kind && when ? say`${what}: pinned ${kind} ${at(when)}` : say`${what}: put back`,
        },
        concerns: told.flatMap(({ concerns }) => concerns),
      };
    },
  };
}

/** Says when a step shall be done, not before an instant or exactly at it, or takes that off again. */
export function pinStep(
  index: ShopIndex,
  step: Step,
  { kind, at: when }: Pinned['pin'],
  doing: Doing,
): Act<{ stepId: Id }> {
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
