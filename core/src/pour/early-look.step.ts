import { choice } from '../records/readings.ts';
import { done, stepKind } from '../route/step-kind.ts';
import { askWhereShort } from './short.step.ts';

const SEEN = [
  { code: 'cup', label: 'at the cup' },
  { code: 'corner', label: 'at a freed corner' },
];

/** Three quarters of an hour after the pour somebody frees a corner: a short cast is known a day before its shell is off. */
export const earlyLook = stepKind({
  code: 'early-look',
  room: 'pour',
  name: 'Early look',
  carrier: 'tree',
  minutes: 5,
  comesAfter: { min: 45, max: null },
  aside: true,
  byCrew: true,
  outcomes: [done('Full'), { ...done('Short', 'short'), why: true }],
  readings: [choice('seen', 'Looked', SEEN, { start: 'cup' })],
  cautions: ['hotCasting'],
  asks: askWhereShort,
});
