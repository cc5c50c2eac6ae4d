import type { Id } from '../records/common.ts';
import { never } from '../records/refusal.ts';
import type { StartStep } from '../records/route.ts';
import type { Op } from '../records/shop.ts';
import { update } from '../records/shop.ts';
import type { Step } from '../records/step.ts';
import { keptReadings } from '../route/close-step.ts';
import { judgeStart, throughWhat } from '../route/judge.ts';
import { stepLabel } from '../route/labels.ts';
import { linksOf } from '../route/links.ts';
import type { ShopIndex } from '../route/shop-index.ts';
import { roomOfStep } from '../route/standing.ts';
import { say } from '../units/words.ts';
import type { Act, Doing } from './act.ts';
import { allow, concernsOf, invalidAct, refusedAct, wrongTimes } from './act.ts';

/** Begins a step: from then on it runs, and what its room begins with it (a pull fills its mould) is kept. */
export function startStep(index: ShopIndex, step: Step, given: StartStep, doing: Doing): Act<{ stepId: Id }> {
  const kind = index.kind(step);
  const { startedAt, readings } = given;
  if (kind.through) return refusedAct([never('through', throughWhat(kind))]);
  if (step.state !== 'planned')
    return refusedAct([never('closed', say`${stepLabel(index, step)} is ${step.state} already.`)]);
  const wrong = wrongTimes(doing.now, null, startedAt);
  if (Object.keys(wrong).length > 0) return invalidAct({ startedAt: wrong['endedAt']! });
  const { left, passed } = allow(judgeStart(index, linksOf(index), step, startedAt, readings), doing);
  if (left.length > 0) return refusedAct(left);
  const said = { startedAt, endedAt: null, outcome: null, readings };
  const ops: Op[] = [
    update('steps', step.id, {
      state: 'running',
      startedAt,
      readings: { ...step.readings, ...keptReadings(kind, readings) },
    }),
    ...(kind.begin?.(index, step, said, doing.newId) ?? []),
  ];
  return {
    refusals: [],
    fields: {},
    passed,
    ops,
    answer: { stepId: step.id },
    tell: () => ({
      event: {
        verb: 'start step',
        text: say`${stepLabel(index, step)}: begun`,
        room: roomOfStep(index, step),
        doneAt: startedAt,
      },
      concerns: concernsOf(index, step),
    }),
  };
}
