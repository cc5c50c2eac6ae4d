import type { Doing, PlanSnapshot } from '@kalvet/core';
import { newId } from '../write/new-id.ts';

/** Who tries changes on a plan: nobody who writes, so every rule that may be passed is. */
export const triedBy = ({ now, settings }: Pick<PlanSnapshot, 'now' | 'settings'>): Doing => ({
  now,
  actor: null,
  mayPass: () => true,
  // An unlikely figure of an enquiry was asked about when it was entered.
  overrides: [{ rule: 'unlikely', reason: 'draft' }],
  settings,
  people: new Map(),
  newId: () => newId(),
});
