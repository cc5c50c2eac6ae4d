import type { Closing, Id, Instant, Op, RecordStep, ShopIndex, Step } from '@kalvet/core';
import {
  INSERTABLE,
  STEP_KINDS,
  beginWax,
  carrierLabel,
  castsOfTree,
  closeStep,
  indexShop,
  insert,
  insertStep as insertStepOps,
  judge,
  judgeStart,
  linksOf,
  outcomeOf,
  outcomeNamed,
  piecesOfStep,
  readingsInWords,
  roomOfStep,
  stepLabel,
  stepName,
  throughWhat,
  tooOld,
  update,
} from '@kalvet/core';
import { carryOut, lockShop, worksOf } from '../shop/locked.ts';
import type { Context } from '../write/context.ts';
import { Problem, invalid, notFound, refused } from '../write/problem.ts';
import { checkReadings } from './readings.schema.ts';
import type { InsertStep, StartStep } from './step.schema.ts';

/** A clock on another machine may be a little ahead. */
const AHEAD_MS = 60_000;

/** @throws Problem where a time lies ahead of now, or a step would end before it began */
export function checkTimes(ctx: Context, startedAt: Instant | null, endedAt: Instant): void {
  const limit = Date.parse(ctx.now) + AHEAD_MS;
  const fields: Record<string, string> = {};
  if (Date.parse(endedAt) > limit) fields['endedAt'] = 'cannot be ahead of now';
  if (startedAt && Date.parse(startedAt) > Date.parse(endedAt)) fields['startedAt'] = 'cannot be after the end';
  if (Object.keys(fields).length > 0) throw invalid(fields);
}

/** @throws Problem where somebody is named who never worked here */
export async function checkPeople(ctx: Context, by: readonly Id[]): Promise<void> {
  const known = await ctx.select<{ id: Id }>('SELECT id FROM person WHERE id IN (?)', [by]);
  if (new Set(known.map(({ id }) => id)).size !== new Set(by).size)
    throw invalid({ by: 'names somebody who does not work here' });
}

/** The step with the shop round it, taken for this write. Casts named by the record bring their works with them. */
async function claimStep(ctx: Context, id: Id, version: number, yours: unknown, castIds: readonly Id[] = []) {
  const step = await ctx.find<Step>('steps', id);
  if (!step) throw notFound('step');
  const works = [...(await worksOf(ctx, step.carrier, step.carrierId))];
  for (const castId of castIds) works.push(...(await worksOf(ctx, 'cast', castId)));
  const index = await lockShop(ctx, [...new Set(works)], step.carrier === 'piece' ? [step.carrierId] : []);
  const claimed = await ctx.claim<Step>('steps', id, version, 'step', yours);
  return { index, step: claimed };
}

/** Names everything a step's event concerns: its carrier, the casts on a tree, their pieces and works. */
export function concernStep(ctx: Context, index: ShopIndex, step: Step): void {
  ctx.concern('step', step.id);
  ctx.concern(step.carrier, step.carrierId);
  if (step.carrier === 'tree') ctx.concern('cast', ...castsOfTree(index, step.carrierId).map(({ id }) => id));
  const mould = index.mould.get(step.carrierId);
  if (mould) ctx.concern('work', mould.workId);
  for (const id of piecesOfStep(index, step)) {
    ctx.concern('piece', id);
    ctx.concern('work', index.piece.get(id)!.workId);
  }
}

/** Judges a closing and works out what follows: the one way to record a step, whether alone, in a load or in a heat. */
export function closeJudged(
  ctx: Context,
  index: ShopIndex,
  step: Step,
  said: Omit<Closing, 'flags' | 'recordedBy'>,
): { ops: Op[]; closing: Closing } {
  let outcome;
  try {
    outcome = outcomeNamed(step.kind, said.outcome);
  } catch (error) {
    throw invalid({ outcome: (error as Error).message });
  }
  if (outcome.why && said.note === '') throw invalid({ note: `say why: ${outcome.label}` });
  const readings = checkReadings(step.kind, said.outcome, said.readings);
  const links = linksOf(index);
  const bare: Closing = { ...said, readings, recordedBy: ctx.actor?.id ?? null, flags: [] };
  ctx.allow(judge(index, links, step, bare));
  const flags = [
    ...tooOld(index, links, step, said.startedAt ?? said.endedAt),
    ...ctx.passed.map(({ rule, reason }) => `${rule} overridden by ${ctx.actor?.name ?? 'somebody'}: ${reason}`),
  ];
  const closing = { ...bare, flags };
  return { ops: closeStep(index, step, closing, ctx.newId), closing };
}

/** What the history says of a step that was recorded. */
export function closedInWords(index: ShopIndex, step: Step, closing: Closing): string {
  const label = outcomeOf(step.kind, closing.outcome)?.label ?? 'Skipped';
  const said = [label === 'Done' ? '' : label.toLowerCase(), readingsInWords(step.kind, closing.readings), closing.note]
    .filter(Boolean)
    .join(', ');
  return `${stepLabel(index, step)}${said ? `: ${said}` : ''}`;
}

/** Records a step as done, with its readings, people, time and outcome. */
export async function recordStep(
  ctx: Context,
  id: Id,
  given: RecordStep,
): Promise<{ stepId: Id; flags: readonly string[] }> {
  const castIds = Array.isArray(given.readings['castIds']) ? (given.readings['castIds'] as unknown[]).map(String) : [];
  const { index, step } = await claimStep(ctx, id, given.version, given, castIds);
  if (STEP_KINDS[step.kind].through && given.outcome !== 'skipped')
    throw refused([{ rule: 'through', message: throughWhat(step), mayOverride: false }]);
  checkTimes(ctx, given.startedAt, given.endedAt);
  await checkPeople(ctx, given.by);
  const { version: _, override: __, ...said } = given;
  const { ops, closing } = closeJudged(ctx, index, step, {
    ...said,
    startedAt: given.startedAt ?? step.startedAt,
  });
  concernStep(ctx, index, step);
  const after = indexShop(await carryOut(ctx, index.shop, ops));
  concernStep(ctx, after, step);
  const effect = outcomeNamed(step.kind, given.outcome).effect;
  ctx.event = {
    verb: 'record step',
    text: closedInWords(after, step, closing),
    room: roomOfStep(index, step),
    doneAt: given.endedAt,
    bad: effect === 'lost' || effect === 'again',
  };
  return { stepId: id, flags: closing.flags };
}

/** Begins a step: from then on it runs, and a pull holds its mould. */
export async function startStep(ctx: Context, id: Id, given: StartStep): Promise<{ stepId: Id }> {
  const { index, step } = await claimStep(ctx, id, given.version, given);
  if (STEP_KINDS[step.kind].through)
    throw refused([{ rule: 'through', message: throughWhat(step), mayOverride: false }]);
  if (step.state !== 'planned')
    throw refused([
      { rule: 'closed', message: `${stepLabel(index, step)} is ${step.state} already.`, mayOverride: false },
    ]);
  checkTimes(ctx, null, given.startedAt);
  ctx.allow(judgeStart(index, linksOf(index), step, given.startedAt, given.mouldId));
  const ops: Op[] = [
    update('steps', id, {
      state: 'running',
      startedAt: given.startedAt,
      ...(given.mouldId ? { readings: { ...step.readings, mouldId: given.mouldId } } : {}),
    }),
  ];
  const cast = step.carrier === 'cast' ? index.cast.get(step.carrierId) : undefined;
  if (step.kind === 'pull' && cast)
    ops.push(
      insert('pulls', {
        id: ctx.newId(),
        number: 0,
        mouldId: given.mouldId!,
        castIds: [cast.id],
        startedAt: given.startedAt,
        endedAt: null,
        wax: '',
        outcome: null,
        version: 1,
      }),
    );
  if (cast && (step.kind === 'pull' || step.kind === 'model-wax')) ops.push(...beginWax(index, cast));
  await carryOut(ctx, index.shop, ops);
  concernStep(ctx, index, step);
  ctx.event = {
    verb: 'start step',
    text: `${stepLabel(index, step)}: begun`,
    room: roomOfStep(index, step),
    doneAt: given.startedAt,
  };
  return { stepId: id };
}

/** Inserts a step behind what is done: a repair, rework, an approval, work done elsewhere. */
export async function insertStep(ctx: Context, given: InsertStep): Promise<{ stepId: Id }> {
  if (!INSERTABLE[given.kind]?.includes(given.carrier))
    throw invalid({ kind: `${STEP_KINDS[given.kind].name} is not done to a ${given.carrier}` });
  const works = await worksOf(ctx, given.carrier, given.carrierId);
  if (works.length === 0) throw notFound(given.carrier);
  const index = await lockShop(ctx, works);
  const ops = insertStepOps(index, given.carrierId, given.kind, given.why, ctx.newId, given.afterId);
  if (!ops) throw new Problem('refused', 'There is no step there to follow.', { rule: 'state' });
  const after = indexShop(await carryOut(ctx, index.shop, ops));
  const first = ops[0]!;
  const step = after.step.get(first.op === 'insert' ? first.row.id : '')!;
  concernStep(ctx, after, step);
  ctx.event = {
    verb: 'insert step',
    text: `${stepName(after, step)} put in for ${carrierLabel(after, step)}: ${given.why}`,
    room: roomOfStep(after, step),
    reason: given.why,
  };
  return { stepId: step.id };
}
