import type { Id } from '../records/common.ts';
import type { AnswerDef, Decide } from '../records/question.ts';
import { never } from '../records/refusal.ts';
import type { Op } from '../records/shop.ts';
import { insert, update } from '../records/shop.ts';
import type { Step } from '../records/step.ts';
import { insertAfter, loseCastOps, loseTree } from '../route/lose.ts';
import { stepLabel } from '../route/labels.ts';
import type { ShopIndex } from '../route/shop-index.ts';
import { piecesOfStep, roomOfStep } from '../route/standing.ts';
import { say } from '../units/words.ts';
import type { Act, Doing } from './act.ts';
import { concernsOf, invalidAct, refusedAct } from './act.ts';
import { pieceDecisions } from './decisions.ts';

/** Decides what a step asks: noted with who did, and where it says so the cast is made anew or the step done again. */
export function decide(index: ShopIndex, step: Step, given: Decide, doing: Doing): Act<{ stepId: Id }> {
  const asked = piecesOfStep(index, step)
    .flatMap((id) => pieceDecisions(index, index.piece.get(id)!, doing.settings.waxBand))
    .filter(({ stepId, castId }) => stepId === step.id && (given.castId === undefined || castId === given.castId));
  if (asked.length === 0)
    return refusedAct([
      never('closed', say`${stepLabel(index, step)} asks nothing any more: it was decided, or went on.`),
    ]);
  const answer = asked[0]!.answers.find(({ code }) => code === given.answer);
  if (!answer) return invalidAct({ answer: `is none of ${asked[0]!.answers.map(({ code }) => code).join(', ')}` });
  const decided = { answer: answer.code, by: doing.actor?.id ?? null, at: doing.now };
  return {
    refusals: [],
    fields: {},
    passed: [],
    ops: [update('steps', step.id, { decided }), ...following(index, step, asked[0]!.castId!, answer, doing)],
    answer: { stepId: step.id },
    tell: () => ({
      event: {
        verb: 'decide',
        text: say`${stepLabel(index, step)}: decided, ${answer.label.toLowerCase()}`,
        room: roomOfStep(index, step),
        doneAt: doing.now,
        bad: answer.does === 'recast',
      },
      concerns: concernsOf(index, step),
    }),
  };
}

function following(index: ShopIndex, step: Step, castId: Id, { does, label }: AnswerDef, doing: Doing): Op[] {
  if (does === 'noted') return [];
  if (does === 'again')
    return insertAfter(step, [[step.kind, { sequence: step.sequence }]], label, doing.newId).map((made) =>
      insert('steps', made),
    );
  const loss = { room: roomOfStep(index, step), why: step.note || (step.insertedWhy ?? label), at: doing.now };
  const own = (op: Op) => !(op.op === 'update' && op.table === 'steps' && op.id === step.id);
  // A leak is the whole shell's; after the pour each casting is judged by itself.
  const whole = step.carrier === 'tree' && step.state === 'planned';
  const ops = whole
    ? loseTree(index, step.carrierId, loss, doing.newId)
    : loseCastOps(index, index.cast.get(castId)!, loss, doing.newId);
  return whole ? [update('steps', step.id, { state: 'void' }), ...ops.filter(own)] : ops;
}
