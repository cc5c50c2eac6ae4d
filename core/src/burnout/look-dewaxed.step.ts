import { num, text, yes } from '../records/readings.ts';
import { again, done, lost, stepKind } from '../route/step-kind.ts';

/** Between dewax and fire somebody looks: cracks with their place and length, wax that stayed inside. */
export const lookDewaxed = stepKind({
  code: 'look-dewaxed',
  room: 'burnout',
  name: 'Look after dewax',
  carrier: 'tree',
  minutes: 10,
  outcomes: [
    done('Sound'),
    again('Cracked: patch', 'patch', ['patch']),
    again('Wax inside: dewax again', 'wax', ['dewax']),
    lost('Broken: lost'),
  ],
  readings: [
    text('where', 'Where it cracked', { outcomes: ['patch', 'lost'], max: 200 }),
    num('crackMm', 'Crack, length', 'mm', [0.5, 5000, 0], { outcomes: ['patch'] }),
    yes('torched', 'Last wax taken out by torch'),
  ],
  cautions: ['waxTorch'],
  nameOf: (_, step) => (step.insertedAfter ? 'Look after dewax again' : 'Look after dewax'),
  risk: 'burnout',
});
