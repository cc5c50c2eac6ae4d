import type { ReadingDef } from '../records/readings.ts';
import { text } from '../records/readings.ts';
import { again, done } from './step-kind.ts';

/** What every approval ends in, in whichever room: a change grows rework, and is shown again. */
export const APPROVAL_OUTCOMES = [done('Approved'), again('Change asked for', 'change', ['rework'])];
export const SHOWN: readonly ReadingDef[] = [
  text('by', 'Approved by', { required: true }),
  text('shown', 'What was shown'),
];
