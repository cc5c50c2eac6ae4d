import type { Learned, StepKindCode } from '@kalvet/core';
import { fromRow } from '../db/tables.ts';
import type { Store } from '../write/store.ts';

/**
 * What the shop's logged hours say of each kind, as the plan in use was made with it: the planner goes through all of them
 * anyway, and a whole shop would be read here for a line of text.
 */
export async function learnedIn({ models }: Store): Promise<ReadonlyMap<StepKindCode, Learned>> {
  const [plan] = await models.plans.findAll({ where: { state: 'current' }, attributes: ['learned'], raw: true });
  if (!plan) return new Map();
  return new Map(fromRow<{ learned: [StepKindCode, Learned][] | null }>('plans', plan as never).learned ?? []);
}
