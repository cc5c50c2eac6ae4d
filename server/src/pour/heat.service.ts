import type {
  Abandon,
  ChangeHeat,
  ConfirmCrew,
  FinishHeat,
  Heat,
  HeatPlan,
  Id,
  PlanHeat,
  PourTree,
  Pouring,
  ShopIndex,
} from '@kalvet/core';
import * as core from '@kalvet/core';
import { readyInWrite } from '../plan/ready-trees.ts';
import { checkReadings } from '../route/readings.schema.ts';
import { lockCarriers } from '../shop/locked.ts';
import { perform } from '../shop/perform.ts';
import type { Context } from '../write/context.ts';
import { invalid, notFound } from '../write/problem.ts';

const treesIn = ({ trees }: HeatPlan): Id[] => trees.map(({ treeId }) => treeId);

export async function planHeat(ctx: Context, given: PlanHeat): Promise<{ id: Id; number: number }> {
  ctx.may('plan heat');
  if (await ctx.find('heats', given.id)) throw invalid({ id: 'this heat is planned already; open the form again' });
  const index = await lockCarriers(
    ctx,
    treesIn(given).map((id) => ['tree', id] as const),
  );
  const ready = given.plannedFor === null ? undefined : await readyInWrite(ctx, index, treesIn(given), ctx.now);
  const { answer, after } = await perform(ctx, index, core.planHeat(index, given, await ctx.doing(), ready));
  return { ...answer, number: after.heat.get(given.id)!.number };
}

/** The heat, taken for this write, with its trees' works. */
async function claimHeat(
  ctx: Context,
  id: Id,
  given: { readonly version: number },
  alsoTrees: readonly Id[] = [],
): Promise<{ heat: Heat; index: ShopIndex }> {
  const heat = await ctx.claim<Heat>('heats', id, given.version, 'heat', given);
  const pourings = await ctx.rows<Pouring>('pourings', { heatId: id });
  const treeIds = [...new Set([...pourings.map(({ treeId }) => treeId), ...alsoTrees])];
  const index = await lockCarriers(
    ctx,
    treeIds.map((treeId) => ['tree', treeId] as const),
    { heatIds: [id] },
  );
  return { heat, index };
}

/** Changes trees, their order and the charge, as long as nothing was poured. */
export async function changeHeat(ctx: Context, id: Id, given: ChangeHeat): Promise<{ id: Id }> {
  ctx.may('change heat');
  const { heat, index } = await claimHeat(ctx, id, given, treesIn(given));
  const ready = given.plannedFor === null ? undefined : await readyInWrite(ctx, index, treesIn(given), ctx.now);
  return (await perform(ctx, index, core.changeHeat(index, heat, given, await ctx.doing(), ready))).answer;
}

/** The gate before the melt: crew named, cover on, signs agreed. */
export async function confirmCrew(ctx: Context, id: Id, given: ConfirmCrew): Promise<{ id: Id }> {
  ctx.may('confirm crew');
  ctx.mayAnswer('crew and cover');
  const { heat, index } = await claimHeat(ctx, id, given);
  return (await perform(ctx, index, core.confirmCrew(index, heat, given, await ctx.doing()))).answer;
}

/** Records one tree of a heat as poured, short, run out or not poured. */
export async function pourTree(ctx: Context, id: Id, given: PourTree): Promise<{ id: Id; flags: readonly string[] }> {
  ctx.may('pour');
  const { heat, index } = await claimHeat(ctx, id, given);
  if (!(index.inHeat.get(id) ?? []).some(({ treeId }) => treeId === given.treeId)) throw notFound('tree in this heat');
  const step = core.pourStepOf(index, given.treeId);
  const readings = step ? checkReadings(index.kind(step), given.outcome, given.readings) : given.readings;
  const act = core.pourTree(index, heat, { ...given, readings }, await ctx.doing());
  return (await perform(ctx, index, act)).answer;
}

/** The heat is over: what is left is pigged and counts as returns. */
export async function finishHeat(ctx: Context, id: Id, given: FinishHeat): Promise<{ id: Id }> {
  ctx.may('finish heat');
  const { heat, index } = await claimHeat(ctx, id, given);
  return (await perform(ctx, index, core.finishHeat(index, heat, given, await ctx.doing()))).answer;
}

/** The heat is given up: trees not yet poured wait for another one. */
export async function abandonHeat(ctx: Context, id: Id, given: Abandon): Promise<{ id: Id }> {
  ctx.may('abandon heat');
  const { heat, index } = await claimHeat(ctx, id, given);
  return (await perform(ctx, index, core.abandonHeat(index, heat, given, await ctx.doing()))).answer;
}
