import { num } from '../records/readings.ts';
import { stepKind } from '../route/step-kind.ts';
import { chasingMinutes } from './hours.ts';

/** Seams, gates and surface are worked until the metal looks like the reference. */
export const chaseMetal = stepKind({
  code: 'chase-metal',
  room: 'chasing',
  name: 'Chase metal',
  carrier: 'piece',
  minutes: 480,
  readings: [num('hours', 'Hours', 'h', [0.1, 2000, 1], { ofEach: true })],
  cautions: ['silica'],
  afterJoining: true,
  effort: ({ areaCm2, weightKg }) => chasingMinutes(areaCm2, weightKg),
});
