import type {
  Carrier,
  Decide,
  Id,
  InsertStep,
  RecordMany,
  RecordStep,
  SavePin,
  ShopIndex,
  StartStep,
  Step,
  StepKind,
} from '@kalvet/core';
import * as core from '@kalvet/core';
import { kindOf, roomOfStep } from '@kalvet/core';
import { lockCarriers } from '../shop/locked.ts';
import { perform } from '../shop/perform.ts';
import type { Context } from '../write/context.ts';
import { Problem, invalid, notFound } from '../write/problem.ts';
import { checkFirstReadings, checkReadings } from './readings.schema.ts';

/** The step with the shop round it, taken for this write. Casts named by the record bring their works with them. */
async function claimStep(
  ctx: Context,
  id: Id,
  version: number,
  yours: unknown,
  castIds: readonly Id[] = [],
): Promise<{ index: ShopIndex; step: Step }> {
  const step = await ctx.find<Step>('steps', id);
  if (!step) throw notFound('step');
  refuseWhole(step);
  const carriers = [[step.carrier, step.carrierId], ...castIds.map((castId) => ['cast', castId])] as [Carrier, Id][];
  const index = await lockCarriers(ctx, carriers, { alsoPieces: step.carrier === 'piece' ? [step.carrierId] : [] });
  const claimed = await ctx.claim<Step>('steps', id, version, 'step', yours);
  return { index, step: claimed };
}

/** What concerns a whole load or heat is recorded, begun and planned with it. */
function refuseWhole({ carrier }: Step): void {
  if (carrier === 'load' || carrier === 'heat')
    throw new Problem('refused', `This belongs to its ${carrier} as a whole; open that instead.`, {
      rule: 'through',
      mayOverride: false,
    });
}

/** Casts that a record names, where it names any. */
const castsNamed = ({ castIds }: Readonly<Record<string, unknown>>): Id[] =>
  Array.isArray(castIds) ? castIds.filter((id): id is Id => typeof id === 'string') : [];

/** Asks whether whoever writes works in the step's room, and answers for it where it is a decision. */
function mayRecord(ctx: Context, { room, answeredFor }: StepKind): void {
  ctx.may('record step', room);
  if (answeredFor) ctx.mayAnswer(answeredFor);
}

/** Records a step as done, with its readings, people, time and outcome. */
export async function recordStep(
  ctx: Context,
  id: Id,
  given: RecordStep,
): Promise<{ stepId: Id; flags: readonly string[] }> {
  ctx.may('record step');
  const { index, step } = await claimStep(ctx, id, given.version, given, castsNamed(given.readings));
  const kind = index.kind(step);
  mayRecord(ctx, kind);
  const readings = kind.through ? given.readings : checkReadings(kind, given.outcome, given.readings);
  const act = core.recordStep(index, step, { ...given, readings }, await ctx.doing());
  return (await perform(ctx, index, act)).answer;
}

/** Records several steps of one kind at once, each with what is its own: a tray of dips. All of them or none. */
export async function recordMany(
  ctx: Context,
  given: RecordMany,
): Promise<{ stepIds: readonly Id[]; flags: readonly string[] }> {
  ctx.may('record step');
  const found = await Promise.all(given.steps.map(({ id }) => ctx.find<Step>('steps', id)));
  if (found.some((step) => !step)) throw notFound('step');
  const asked = found as Step[];
  asked.forEach(refuseWhole);
  const index = await lockCarriers(
    ctx,
    asked.map(({ carrier, carrierId }) => [carrier, carrierId] as const),
  );
  const steps: Step[] = [];
  for (const { id, version } of given.steps) steps.push(await ctx.claim<Step>('steps', id, version, 'step', given));
  const kind = index.kind(steps[0]!);
  for (const step of steps) mayRecord(ctx, index.kind(step));
  const each = kind.through
    ? given.steps
    : given.steps.map((one, place) => ({ ...one, readings: checkOfTray(kind, given, place) }));
  const act = core.recordMany(index, steps, { ...given, readings: {}, steps: each }, await ctx.doing());
  return (await perform(ctx, index, act)).answer;
}

/** The readings of one on a tray: its own over what all have in common; what is wrong is said where it was given. */
function checkOfTray(kind: StepKind, given: RecordMany, place: number): Record<string, unknown> {
  const own = given.steps[place]!.readings ?? {};
  try {
    return checkReadings(kind, given.outcome, { ...given.readings, ...own });
  } catch (failure) {
    if (!(failure instanceof Problem) || !failure.extra.fields) throw failure;
    const common = new Set(Object.keys(given.readings).map((key) => `readings.${key}`));
    throw invalid(
      Object.fromEntries(
        Object.entries(failure.extra.fields).map(([field, text]) => [
          common.has(field) || !field.startsWith('readings.') ? field : `steps.${place}.${field}`,
          text,
        ]),
      ),
    );
  }
}

/** Decides what a step asks. */
export async function decide(ctx: Context, id: Id, given: Decide): Promise<{ stepId: Id }> {
  ctx.may('decide');
  const { index, step } = await claimStep(ctx, id, given.version, given);
  ctx.may('decide', roomOfStep(index, step));
  return (await perform(ctx, index, core.decide(index, step, given, await ctx.doing()))).answer;
}

/** Begins a step: from then on it runs, and a pull holds its mould. */
export async function startStep(ctx: Context, id: Id, given: StartStep): Promise<{ stepId: Id }> {
  ctx.may('start step');
  const { index, step } = await claimStep(ctx, id, given.version, given);
  ctx.may('start step', index.kind(step).room);
  const readings = checkFirstReadings(index.kind(step), given.readings);
  return (await perform(ctx, index, core.startStep(index, step, { ...given, readings }, await ctx.doing()))).answer;
}

/** Inserts a step behind what is done: a repair, rework, an approval, work done elsewhere. */
export async function insertStep(ctx: Context, given: InsertStep): Promise<{ stepId: Id }> {
  ctx.may('insert step', kindOf(given.kind).room);
  const index = await lockCarriers(ctx, [[given.carrier, given.carrierId]]);
  if (index.shop.works.length === 0) throw notFound(given.carrier);
  return (await perform(ctx, index, core.putInStep(index, given, await ctx.doing()))).answer;
}

/** Says when a step shall be done, or takes that off again. */
export async function pinStep(ctx: Context, id: Id, given: SavePin): Promise<{ stepId: Id }> {
  ctx.may('pin step');
  if ((given.kind === null) !== (given.at === null))
    throw invalid({ at: 'a pin needs its time, and only a pin has one' });
  const { index, step } = await claimStep(ctx, id, given.version, given);
  ctx.may('pin step', index.kind(step).room);
  return (await perform(ctx, index, core.pinStep(index, step, given, await ctx.doing()))).answer;
}
