import { done, lost, stepKind } from '../route/step-kind.ts';
import { DAY_MIN, HOUR_MIN } from '../units/instant.ts';
import { FIRED, firedFacts } from './fired.step.ts';

/** A block burns out slowly, for days, is drawn the day before the pour and bedded. */
export const fireBlock = stepKind({
  code: 'fire-block',
  room: 'burnout',
  name: 'Burn out block',
  carrier: 'tree',
  minutes: 4 * DAY_MIN,
  spans: 'through',
  // Drawn the day before the pour, bedded, and cooled there.
  minWait: 12 * HOUR_MIN,
  maxWait: 3 * DAY_MIN,
  through: 'load',
  outcomes: [done(), lost()],
  readings: FIRED,
  cautions: ['autoclave'],
  kiln: 'block',
  dries: true,
  freshForPour: true,
  risk: 'shell',
  expects: () => [
    { key: 'topC', low: 350, high: 760, from: 'a block burns out at 500 to 700 °C, and plaster breaks down above 750' },
  ],
  facts: firedFacts,
});
