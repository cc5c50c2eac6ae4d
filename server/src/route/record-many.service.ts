import type { Id, RecordMany, Refusal, Step } from '@kalvet/core';
import { STEP_KINDS, carrierLabel, indexShop, outcomeNamed, roomOfStep, throughWhat } from '@kalvet/core';
import { carryOut, lockShop, worksOf } from '../shop/locked.ts';
import type { Context } from '../write/context.ts';
import { Problem, invalid, notFound, refused } from '../write/problem.ts';
import { checkPeople, checkTimes, closeJudged, concernStep } from './step.service.ts';

/**
 * Records several steps of one kind at once, with the same readings: a tray of dips. All of them or none: what stands in
 * the way of one is named with it, and nothing is half written.
 */
export async function recordMany(
  ctx: Context,
  given: RecordMany,
): Promise<{ stepIds: readonly Id[]; flags: readonly string[] }> {
  const found = await Promise.all(given.steps.map(({ id }) => ctx.find<Step>('steps', id)));
  if (found.some((step) => !step)) throw notFound('step');
  const [first] = found as [Step];
  if (found.some((step) => step!.kind !== first.kind))
    throw invalid({ steps: 'only steps of one kind are recorded together' });
  if (STEP_KINDS[first.kind].through)
    throw refused([{ rule: 'through', message: throughWhat(first), mayOverride: false }]);
  checkTimes(ctx, given.startedAt, given.endedAt);
  await checkPeople(ctx, given.by);
  const works = new Set<Id>();
  for (const step of found) for (const id of await worksOf(ctx, step!.carrier, step!.carrierId)) works.add(id);
  let index = await lockShop(ctx, [...works]);

  const { steps, override: _, ...said } = given;
  const refusals: Refusal[] = [];
  const flags: string[] = [];
  const labels: string[] = [];
  for (const { id, version } of steps) {
    const step = await ctx.claim<Step>('steps', id, version, 'step', given);
    labels.push(carrierLabel(index, step));
    try {
      const { ops, closing } = closeJudged(ctx, index, step, { ...said, startedAt: said.startedAt ?? step.startedAt });
      flags.push(...closing.flags.map((flag) => `${carrierLabel(index, step)}: ${flag}`));
      concernStep(ctx, index, step);
      index = indexShop(await carryOut(ctx, index.shop, ops));
      concernStep(ctx, index, step);
    } catch (error) {
      // Every one that stands in the way is named, not only the first.
      if (!(error instanceof Problem) || error.code !== 'refused' || !error.extra.refusals) throw error;
      refusals.push(...(error.extra.refusals as Refusal[]));
    }
  }
  if (refusals.length > 0) throw refused(refusals);
  const { effect, label } = outcomeNamed(first.kind, given.outcome);
  ctx.event = {
    verb: 'record step',
    text: `${STEP_KINDS[first.kind].name} on ${labels.join(', ')}${effect === 'done' ? '' : `: ${label.toLowerCase()}`}${given.note ? `, ${given.note}` : ''}`,
    room: roomOfStep(index, first),
    doneAt: given.endedAt,
    bad: effect === 'lost' || effect === 'again',
  };
  return { stepIds: steps.map(({ id }) => id), flags };
}
