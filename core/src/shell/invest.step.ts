import { num } from '../records/readings.ts';
import { done, lost, stepKind } from '../route/step-kind.ts';
import { DAY_MIN } from '../units/instant.ts';

/** Block investment: refractory plaster cast round the tree; it sets for a day. */
export const invest = stepKind({
  code: 'invest',
  room: 'shell',
  name: 'Build flask and invest',
  carrier: 'tree',
  minutes: 120,
  minWait: DAY_MIN,
  outcomes: [done(), lost()],
  readings: [num('blockKg', 'Block', 'kg', [0.5, 5000, 0]), num('waterL', 'Water', 'l', [0.1, 3000, 1])],
  cautions: ['silica', 'lifting'],
  wets: () => true,
  mixes: true,
});
