import { num } from '../records/readings.ts';
import { again, done, stepKind } from '../route/step-kind.ts';

/** Against the reference set, and weighed; what is not right goes back to a room. */
export const finalInspection = stepKind({
  code: 'final-inspection',
  answeredFor: 'final inspection',
  room: 'patina',
  name: 'Final inspection',
  carrier: 'piece',
  minutes: 30,
  outcomes: [
    done(),
    again('Back to patina', 'to patina', ['patina', 'wax-buff']),
    again('Back to chasing', 'to chasing', ['chase-metal', 'patina', 'wax-buff']),
  ],
  readings: [
    num('finishedKg', 'Finished weight', 'kg', [0.01, 10000, 2], { required: true, outcomes: ['done'], ofEach: true }),
  ],
  weighs: 'piece',
  afterJoining: true,
});
