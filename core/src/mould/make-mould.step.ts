import { num } from '../records/readings.ts';
import { update } from '../records/shop.ts';
import { again, done, stepKind } from '../route/step-kind.ts';
import { mouldMinutes } from './mould-minutes.ts';
import { DAY_MIN } from '../units/instant.ts';

/** Rubber and jacket over the original; good for its pulls once it is cured. */
export const makeMould = stepKind({
  code: 'make-mould',
  room: 'mould',
  name: 'Make mould',
  carrier: 'mould',
  minutes: 480,
  minWait: DAY_MIN,
  effort: ({ areaCm2 }) => mouldMinutes(areaCm2),
  outcomes: [done(), again('Remake', 'remake')],
  readings: [
    num('rubberKg', 'Rubber', 'kg', [0.01, 500, 2]),
    num('parts', 'Parts', '', [1, 60, 0]),
    num('lifePulls', 'Life', 'pulls', [1, 1000, 0], { required: true, start: 60, keptIn: 'mould' }),
  ],
  facts: (index, step) => {
    const lifePulls = index.mould.get(step.carrierId)?.lifePulls;
    return step.state === 'done' && typeof lifePulls === 'number' ? { lifePulls } : {};
  },
  close: ({ step, closing, outcome }) => {
    const life = closing.readings['lifePulls'];
    return outcome.effect === 'done'
      ? [update('moulds', step.carrierId, { state: 'good', lifePulls: typeof life === 'number' ? life : null })]
      : [];
  },
});
