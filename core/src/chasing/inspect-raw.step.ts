import { num } from '../records/readings.ts';
import { again, done, stepKind } from '../route/step-kind.ts';

/** The last look at a piece that leaves raw: weighed, its ledger closed; what is not right goes back to the chasers. */
export const inspectRaw = stepKind({
  code: 'inspect-raw',
  room: 'chasing',
  name: 'Final inspection, raw',
  carrier: 'piece',
  minutes: 30,
  outcomes: [done(), again('Back to chasing', 'to chasing', ['chase-metal'])],
  readings: [
    num('finishedKg', 'Finished weight', 'kg', [0.01, 10000, 2], { required: true, outcomes: ['done'], ofEach: true }),
  ],
  weighs: 'piece',
  afterJoining: true,
  ledgerClosed: true,
});
