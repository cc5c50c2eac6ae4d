import { choice } from '../records/readings.ts';
import { beginWax } from '../route/begin-wax.ts';
import { done, lost, stepKind } from '../route/step-kind.ts';
import { CAST_WAXES } from './wax-choices.ts';

/** Modelled straight in wax: no mould, and no second attempt from the same model. */
export const modelWax = stepKind({
  code: 'model-wax',
  room: 'wax',
  name: 'Model in wax',
  carrier: 'cast',
  minutes: 960,
  outcomes: [done(), lost()],
  readings: [choice('wax', 'Wax', CAST_WAXES, { start: 'micro' })],
  cautions: ['waxPot'],
  beginsWax: true,
  begin: (index, step) => beginWax(index, index.cast.get(step.carrierId)!),
  close: ({ index, step, outcome }) =>
    outcome.effect === 'done' ? beginWax(index, index.cast.get(step.carrierId)!) : [],
});
