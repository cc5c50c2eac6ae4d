import { done, lost, stepKind } from '../route/step-kind.ts';
import { DAY_MIN, HOUR_MIN } from '../units/instant.ts';
import { FIRED, firedFacts } from './fired.step.ts';

/** Fired again, after a patch or because somebody asks for it. */
export const refire = stepKind({
  code: 'refire',
  room: 'burnout',
  name: 'Refire',
  carrier: 'tree',
  minutes: 120,
  spans: 'through',
  minWait: 4 * HOUR_MIN,
  maxWait: 7 * DAY_MIN,
  through: 'load',
  insertable: ['tree'],
  outcomes: [done(), lost()],
  readings: FIRED,
  cautions: ['autoclave'],
  kiln: 'shell',
  dries: true,
  expects: () => [{ key: 'topC', low: 600, high: 1150, from: 'a shell is fired at 800 to 1000 °C' }],
  facts: firedFacts,
});
