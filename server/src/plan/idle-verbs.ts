import type { Verb } from '@kalvet/core';

/** Changes that move no date. */
export const IDLE_VERBS: readonly Verb[] = [
  'take plan',
  'add person',
  'change person',
  'keep records',
  'save client',
  'keep draft',
  'drop draft',
  'renew address',
  'save visit',
];
