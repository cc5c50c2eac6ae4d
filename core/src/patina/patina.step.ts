import { text } from '../records/readings.ts';
import { again, done, stepKind } from '../route/step-kind.ts';
import { patinaMinutes } from './patina-minutes.ts';
import { HOUR_MIN } from '../units/instant.ts';

/** Chemicals on clean metal, coat by coat; not before what was cut out is back. */
export const patina = stepKind({
  code: 'patina',
  skill: 'patina',
  room: 'patina',
  name: 'Patina',
  carrier: 'piece',
  minutes: 180,
  minWait: 12 * HOUR_MIN,
  outcomes: [done(), again('Strip, do again', 'strip'), again('One more time')],
  readings: [text('recipe', 'Recipe', { required: true, sight: 'recipes' })],
  cautions: ['chemicals'],
  afterJoining: true,
  effort: ({ areaCm2 }) => patinaMinutes(areaCm2),
  ledgerClosed: true,
});
