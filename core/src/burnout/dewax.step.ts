import { num, text } from '../records/readings.ts';
import { done, lost, stepKind } from '../route/step-kind.ts';
import { DAY_MIN } from '../units/instant.ts';
import { firedFacts } from './fired.step.ts';

/**
 * The wax leaves, cup down, with all the trees of its load: by steam, flash, torch or slow drain. The shell is not fired yet: it is
 * looked at in between.
 */
export const dewax = stepKind({
  code: 'dewax',
  room: 'burnout',
  name: 'Dewax',
  carrier: 'tree',
  minutes: 30,
  spans: 'through',
  // Wax that stays in a shell swells into it again: the look comes soon.
  maxWait: 3 * DAY_MIN,
  through: 'load',
  outcomes: [done(), lost()],
  readings: [
    text('profile', 'By', { required: true, start: 'autoclave, 9 bar, 12 min', keptIn: 'load' }),
    num('topC', 'Hottest', '°C', [60, 1200, 0], { required: true, keptIn: 'load' }),
  ],
  cautions: ['autoclave'],
  kiln: 'dewax',
  risk: 'shell',
  expects: () => [{ key: 'topC', low: 90, high: 950, from: 'steam of 9 bar is at 175 °C, a flash kiln at 700 °C' }],
  facts: firedFacts,
});
