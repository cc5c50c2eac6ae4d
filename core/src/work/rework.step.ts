import { stepKind } from '../route/step-kind.ts';

/** What a "change" asks for, in the room of the step it follows. */
export const rework = stepKind({
  code: 'rework',
  room: 'wax',
  name: 'Rework',
  carrier: 'piece',
  minutes: 60,
  insertable: ['piece', 'cast'],
  alters: true,
  visits: true,
});
