import { stepKind } from '../route/step-kind.ts';
import { HOUR_MIN } from '../units/instant.ts';

/** Whatever was wet dries; nothing is poured before. */
export const dry = stepKind({
  code: 'dry',
  room: 'burnout',
  name: 'Dry',
  carrier: 'tree',
  minutes: 0,
  minWait: 4 * HOUR_MIN,
  insertable: ['tree'],
  dries: true,
});
