import { stepKind } from '../route/step-kind.ts';
import { HOUR_MIN } from '../units/instant.ts';

/** Wax on warm or cooled metal, and buffed. */
export const waxBuff = stepKind({
  code: 'wax-buff',
  room: 'patina',
  name: 'Wax and buff',
  carrier: 'piece',
  minutes: 30,
  minWait: 12 * HOUR_MIN,
  afterJoining: true,
});
