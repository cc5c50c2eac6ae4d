import type { ChangeTreeCoats, Id, SaveCoatPlan, Tree } from '@kalvet/core';
import * as core from '@kalvet/core';
import { counted, say } from '@kalvet/core';
import { keepSetting } from '../people/keep-settings.ts';
import { lockCarriers } from '../shop/locked.ts';
import { perform } from '../shop/perform.ts';
import type { Context } from '../write/context.ts';
import { Problem, invalid } from '../write/problem.ts';

/** Keeps how the shop shells from now on; trees that were joined keep the plan they began with. */
export async function saveCoatPlan(ctx: Context, { seen, plan }: SaveCoatPlan): Promise<{ number: number }> {
  ctx.may('save coat plan', 'shell');
  // Whoever else saves one waits here.
  await ctx.store.models.counters.findByPk('settings', { raw: true, transaction: ctx.tx, lock: ctx.tx.LOCK.UPDATE });
  const { coatPlans } = await ctx.settings();
  const before = coatPlans.find(({ code }) => code === plan.code);
  if ((before?.number ?? 0) !== seen)
    throw new Problem(
      'stale',
      'Somebody else has changed this coat plan meanwhile. What you typed is kept; look at what is there now.',
      { current: before, yours: plan },
    );
  const wrong = core.wrongCoatPlan(plan);
  if (Object.keys(wrong).length > 0)
    throw invalid(Object.fromEntries(Object.entries(wrong).map(([field, text]) => [`plan.${field}`, text])));
  const { number: _, ...same } = plan;
  if (before && JSON.stringify({ ...before, number: 0 }) === JSON.stringify({ ...same, number: 0 }))
    throw invalid({ plan: 'nothing is changed' });
  const plans = core.withPlan(coatPlans, plan);
  const kept = plans.find(({ code }) => code === plan.code)!;
  await keepSetting(ctx, 'coatPlans', plans);
  ctx.event = {
    verb: 'save coat plan',
    text: say`Coat plan ${kept.name}, number ${kept.number}: ${counted(kept.layers.length, 'layer')} and seal, ${kept.classes[0]!.coats} to ${kept.classes.at(-1)!.coats} coats`,
    room: 'shell',
  };
  return { number: kept.number };
}

/** One tree is shelled otherwise, for a reason. */
export async function changeTreeCoats(ctx: Context, id: Id, given: ChangeTreeCoats): Promise<{ id: Id }> {
  ctx.may('change coats', 'shell');
  await ctx.claim<Tree>('trees', id, given.version, 'tree', given);
  const index = await lockCarriers(ctx, [['tree', id]]);
  return (await perform(ctx, index, core.changeTreeCoats(index, id, given, await ctx.doing()))).answer;
}
