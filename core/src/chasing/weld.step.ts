import { text } from '../records/readings.ts';
import { stepKind } from '../route/step-kind.ts';

/** Defects are welded up; the casting is looked at again after it. */
export const weld = stepKind({
  code: 'weld',
  skill: 'weld',
  room: 'chasing',
  name: 'Weld defects',
  carrier: 'cast',
  minutes: 60,
  insertable: ['cast'],
  readings: [text('filler', 'Filler', { lastsHours: 24 * 30 })],
  cautions: ['welding'],
});
