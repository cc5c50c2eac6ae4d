import { done, lost, stepKind } from '../route/step-kind.ts';
import { DAY_MIN, HOUR_MIN } from '../units/instant.ts';

/** A block of much metal cools so much longer, and at most so long: from about 550 °C to the 100 to 300 °C it is poured at. */
const COOLS_MIN_PER_KG = 6;
const COOLS_AT_MOST = 16 * HOUR_MIN;

/** A block is drawn from the kiln the day before the pour and bedded, and cools there for its size. */
export const drawBlock = stepKind({
  code: 'draw-block',
  room: 'burnout',
  name: 'Draw and bed block',
  carrier: 'tree',
  minutes: 30,
  spans: 'unbroken',
  // It cools in the kiln as long as the profile says, and does not stand there: another load wants it.
  comesAfter: { min: 0, max: 3 * DAY_MIN },
  minWait: 12 * HOUR_MIN,
  maxWait: 1.5 * DAY_MIN,
  freshForPour: true,
  waits: ({ min, max }, { metalKg }) => ({
    min: Math.min(Math.max(min, COOLS_AT_MOST), min + COOLS_MIN_PER_KG * metalKg),
    max,
  }),
  outcomes: [done(), lost()],
  cautions: ['hotCasting', 'lifting'],
  risk: 'shell',
});
