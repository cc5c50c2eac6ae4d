import { APPROVAL_OUTCOMES, SHOWN } from '../route/approval.ts';
import { stepKind } from '../route/step-kind.ts';
import { DAY_MIN } from '../units/instant.ts';

/** An approval that the route did not foresee, in the room of the step it follows. */
export const approval = stepKind({
  code: 'approval',
  room: 'chasing',
  name: 'Approval',
  carrier: 'piece',
  minutes: 0,
  minWait: DAY_MIN,
  waitIs: 'expected',
  insertable: ['piece'],
  outcomes: APPROVAL_OUTCOMES,
  readings: SHOWN,
  visits: true,
});
