import { refuseWaxes } from '../route/lose.ts';
import { APPROVAL_OUTCOMES, SHOWN } from '../route/approval.ts';
import { again, stepKind } from '../route/step-kind.ts';
import { DAY_MIN } from '../units/instant.ts';

/** The artist or the client sees the chased wax before it is joined to a tree. */
export const approveWax = stepKind({
  code: 'approve-wax',
  answeredFor: 'wax approval',
  room: 'wax',
  name: 'Approve wax',
  carrier: 'piece',
  minutes: 0,
  minWait: DAY_MIN,
  waitIs: 'expected',
  outcomes: [...APPROVAL_OUTCOMES, again('Refused: new wax', 'refused')],
  readings: SHOWN,
  approvesWax: true,
  close: ({ index, step, closing, outcome, newId }) =>
    outcome.code === 'refused'
      ? refuseWaxes(
          index,
          index.piece.get(step.carrierId)!,
          { room: 'wax', why: closing.note, at: closing.endedAt },
          newId,
        )
      : [],
});
