import { text } from '../records/readings.ts';
import { update } from '../records/shop.ts';
import { stepKind } from '../route/step-kind.ts';

/** Packed and handed over: the piece is out of the house. */
export const deliver = stepKind({
  code: 'deliver',
  room: 'out',
  name: 'Pack and deliver',
  carrier: 'piece',
  minutes: 60,
  readings: [text('toWhom', 'Handed to', { required: true })],
  cautions: ['lifting'],
  close: ({ step, closing }) => [
    update('pieces', step.carrierId, { state: 'delivered', deliveredAt: closing.endedAt }),
  ],
});
