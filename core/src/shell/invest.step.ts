import type { ReadingDef } from '../records/readings.ts';
import { choice, num, text, yes } from '../records/readings.ts';
import { done, lost, stepKind } from '../route/step-kind.ts';
import { DAY_MIN } from '../units/instant.ts';

const FIRST_READINGS: readonly ReadingDef[] = [
  num('blockKg', 'Block', 'kg', [0.5, 5000, 0]),
  num('waterL', 'Water', 'l', [0.1, 3000, 1]),
];
const MADE = ['cast', 'thrown', 'built'].map((code) => ({ code, label: code }));

const SECOND_READINGS: readonly ReadingDef[] = [
  ...FIRST_READINGS,
  choice('made', 'Round the tree', MADE, { start: 'cast' }),
  num('coverMm', 'Thinnest cover', 'mm', [10, 400, 0]),
  text('reinforced', 'Reinforced with', { max: 120 }),
  yes('pinsHold', 'Core pins reach into the block'),
];
const OF = [
  { code: 'plaster', label: 'refractory plaster' },
  { code: 'clay', label: 'clay' },
];

/** Block investment: refractory plaster cast, thrown or built round the tree, or clay laid on it; it sets for a day. */
export const invest = stepKind({
  code: 'invest',
  room: 'shell',
  name: 'Build flask and invest',
  carrier: 'tree',
  minutes: 120,
  minWait: DAY_MIN,
  outcomes: [done(), lost()],
  readings: [choice('of', 'Investment', OF, { start: 'plaster' }), ...SECOND_READINGS],
  readingsVersion: 3,
  earlierReadings: { 1: FIRST_READINGS, 2: SECOND_READINGS },
  cautions: ['silica', 'lifting'],
  wets: () => true,
  mixes: true,
  expects: () => [{ key: 'coverMm', low: 60, high: 150, from: 'a block covers its tree by 60 to 150 mm, by its size' }],
});
