import { done, lost, stepKind } from '../route/step-kind.ts';
import { DAY_MIN, HOUR_MIN } from '../units/instant.ts';
import { FIRED, firedFacts } from './fired.step.ts';

/** A block burns out slowly, for days, and is poured soon after it is drawn. */
export const fireBlock = stepKind({
  code: 'fire-block',
  room: 'burnout',
  name: 'Burn out block',
  carrier: 'tree',
  minutes: 4 * DAY_MIN,
  spans: 'through',
  maxWait: 12 * HOUR_MIN,
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
