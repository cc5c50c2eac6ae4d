import { DEFECTS, VERDICTS } from '../records/chasing.ts';
import type { Defect } from '../records/chasing.ts';
import { again, done, lost, stepKind } from '../route/step-kind.ts';
import type { Text } from '../units/words.ts';
import { worstVerdict } from './verdict.ts';

/** Each cast against the list of defects: accepted, welded, or cast again. */
export const inspect = stepKind({
  code: 'inspect',
  room: 'chasing',
  name: 'Inspect',
  carrier: 'cast',
  minutes: 15,
  outcomes: [done('Accept', 'accept'), again('Weld', 'weld', ['weld']), lost('Recast', 'recast')],
  readings: [{ key: 'defects', label: 'Defects', kind: 'defects', choices: DEFECTS }],
  readingsVersion: 2,
  // Before they had a place, a size and a verdict, defects were bare codes.
  earlierReadings: { 1: [{ key: 'defects', label: 'Defects', kind: 'codes', choices: DEFECTS }] },
  inspects: true,
  risk: 'chasing',
  nameOf: (_, step) => (step.insertedAfter ? 'Inspect again' : 'Inspect'),
  // An inspection is not passed over the head of its own verdicts.
  wrong: ({ outcome, readings }): Record<string, Text> => {
    const worst = worstVerdict((readings['defects'] ?? []) as Defect[]);
    return VERDICTS.indexOf(worst) > VERDICTS.findIndex((each) => each === outcome)
      ? { outcome: `a defect on the list says ${worst}` }
      : {};
  },
});
