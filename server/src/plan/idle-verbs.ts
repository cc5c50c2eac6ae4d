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
  'read heat',
  'light furnace',
  'shell out',
  'set in pit',
  'save lot',
  'count metal',
  'save crucible',
  'look at crucible',
  'save instrument',
  'save supply',
  'read kiln',
  'import kiln',
  'set shape',
  'check tank',
];
