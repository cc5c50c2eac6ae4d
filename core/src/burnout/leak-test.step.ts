import type { ReadingDef } from '../records/readings.ts';
import { choice, num, text } from '../records/readings.ts';
import { again, done, lost, stepKind } from '../route/step-kind.ts';
import { DAY_MIN } from '../units/instant.ts';
import { say } from '../units/words.ts';

const HOW = ['light', 'air', 'water'].map((code) => ({ code, label: code }));
const byWater = (readings: Readonly<Record<string, unknown>>): boolean => readings['how'] === 'water';

const FIRST_READINGS: readonly ReadingDef[] = [
  choice('how', 'Tested by', [...HOW, { code: 'eye', label: 'eye only' }], { required: true, start: 'light' }),
  text('where', 'Where it leaks', { outcomes: ['patch', 'lost'] }),
];
/** What is seen of a fired shell: carbon that stayed means that its wax did not burn out. */
const INSIDE = [
  { code: 'white', label: 'white' },
  { code: 'grey', label: 'grey' },
  { code: 'carbon', label: 'black: carbon' },
];

/** Is the shell tight? By light, air, water or eye; water leaves it wet, and a drying comes after it. */
export const leakTest = stepKind({
  code: 'leak-test',
  answeredFor: 'leak test',
  room: 'burnout',
  name: 'Leak test',
  carrier: 'tree',
  minutes: 15,
  spans: 'unbroken',
  maxWait: 14 * DAY_MIN,
  insertable: ['tree'],
  outcomes: [done('Tight'), again('Leaks: patch', 'patch', ['patch', 'refire']), lost('Leaks: lost')],
  readings: [
    ...FIRST_READINGS,
    num('crackMm', 'Crack, length', 'mm', [0.5, 5000, 0], { outcomes: ['patch'] }),
    choice('inside', 'Inside', INSIDE),
  ],
  readingsVersion: 2,
  earlierReadings: { 1: FIRST_READINGS },
  freshForPour: true,
  gate: { rule: 'leak', says: (label) => say`The leak test is not passed: ${label}.` },
  wets: byWater,
  risk: 'burnout',
  nameOf: (_, step) => (step.insertedAfter ? 'Leak test again' : 'Leak test'),
  grows: ({ closing, outcome }) => (outcome.effect === 'done' && byWater(closing.readings) ? ['dry'] : []),
});
