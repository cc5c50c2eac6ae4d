import { num } from '../records/readings.ts';
import { update } from '../records/shop.ts';
import { done, stepKind } from '../route/step-kind.ts';
import { HOUR_MIN } from '../units/instant.ts';

/** A tear is mended, or the mould is given up: a person puts it in, and the mould waits for it. */
export const repairMould = stepKind({
  code: 'repair-mould',
  room: 'mould',
  name: 'Repair mould',
  carrier: 'mould',
  minutes: 120,
  minWait: 12 * HOUR_MIN,
  insertable: ['mould'],
  outcomes: [done('Repaired'), { ...done('Retire it', 'retire'), why: true }],
  readings: [num('atPull', 'At pull no.', '', [0, 1000, 0])],
  inserted: (mouldId) => [update('moulds', mouldId, { state: 'in repair' })],
  close: ({ step, outcome }) => [
    update('moulds', step.carrierId, { state: outcome.code === 'retire' ? 'retired' : 'good' }),
  ],
});
