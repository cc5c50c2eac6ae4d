import { num, text } from '../records/readings.ts';
import { stepKind } from '../route/step-kind.ts';

/** Sent out and back: printing, enlarging, blasting, the artist's own chasing. */
export const elsewhere = stepKind({
  code: 'elsewhere',
  room: 'chasing',
  name: 'Work done elsewhere',
  carrier: 'piece',
  minutes: 0,
  insertable: ['mould', 'cast', 'tree', 'piece'],
  readings: [
    text('where', 'Where', { required: true }),
    text('what', 'What', { required: true }),
    num('kgOut', 'Weight out', 'kg', [0, 10000, 2]),
    num('kgBack', 'Weight back', 'kg', [0, 10000, 2]),
  ],
  alters: true,
  visits: true,
});
