import type {
  Abandon,
  ChangeHeat,
  ConfirmCrew,
  FinishHeat,
  Heat,
  HeatPlan,
  Id,
  LightHeat,
  PlanHeat,
  PourTree,
  Pouring,
  ReadHeat,
  SetInPit,
  ShellOut,
  ShopIndex,
} from '@kalvet/core';
import * as core from '@kalvet/core';
import { readyInWrite } from '../plan/ready-trees.ts';
import { checkReadings } from '../route/readings.schema.ts';
import { meterNow } from '../instruments/instrument-read.service.ts';
import { lockCarriers } from '../shop/locked.ts';
import { metalAtHand, potsOf } from '../stores/metal-read.service.ts';
import { perform } from '../shop/perform.ts';
import type { Context } from '../write/context.ts';
import { invalid, notFound } from '../write/problem.ts';
import { pitTaken } from './pit-read.service.ts';

/** What a heat is planned with: when its trees can be ready, what metal lies there, and its pot. */
async function meansOf(
  ctx: Context,
  index: ShopIndex,
  { alloyId, heatId, crucibleId }: { readonly alloyId: string; readonly heatId?: Id; readonly crucibleId: Id | null },
  given: HeatPlan,
): Promise<core.HeatMeans> {
  const ready = given.plannedFor === null ? undefined : await readyInWrite(ctx, index, treesIn(given), ctx.now);
  const { store, tx } = ctx;
  const of = { tx, ...(heatId === undefined ? {} : { heatId }) };
  const metal = given.chargeLines.length === 0 ? undefined : await metalAtHand(store, alloyId, of);
  const [pot] = crucibleId === null ? [] : await potsOf(store, { ids: [crucibleId], ...of });
  if (crucibleId !== null && !pot) throw invalid({ crucibleId: 'there is no such crucible' });
  return { ready, metal, pot };
}

const treesIn = ({ trees }: HeatPlan): Id[] => trees.map(({ treeId }) => treeId);

export async function planHeat(ctx: Context, given: PlanHeat): Promise<{ id: Id; number: number }> {
  ctx.may('plan heat');
  if (await ctx.find('heats', given.id)) throw invalid({ id: 'this heat is planned already; open the form again' });
  const index = await lockCarriers(
    ctx,
    treesIn(given).map((id) => ['tree', id] as const),
  );
  const means = await meansOf(ctx, index, { alloyId: given.alloyId, crucibleId: given.crucibleId ?? null }, given);
  const { answer, after } = await perform(ctx, index, core.planHeat(index, given, await ctx.doing(), means));
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
  const { alloyId, crucibleId } = heat;
  const pot = given.crucibleId === undefined ? crucibleId : given.crucibleId;
  const means = await meansOf(ctx, index, { alloyId, heatId: id, crucibleId: pot }, given);
  return (await perform(ctx, index, core.changeHeat(index, heat, given, await ctx.doing(), means))).answer;
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

/** A heat as it stands, taken for a write that whoever stands at the furnace makes: they do not wait for one another's screens. */
async function heatNow(ctx: Context, id: Id): Promise<{ heat: Heat; index: ShopIndex }> {
  const heat = await ctx.find<Heat>('heats', id, true);
  if (!heat) throw notFound('heat');
  return claimHeat(ctx, id, heat);
}

/** A temperature of the metal or of a mould, as it was read. */
export async function readHeat(ctx: Context, id: Id, given: ReadHeat): Promise<{ id: Id }> {
  ctx.may('read heat');
  const { heat, index } = await heatNow(ctx, id);
  if (await ctx.find('heatReadings', given.id)) throw invalid({ id: 'this reading is kept already' });
  return (await perform(ctx, index, core.readHeat(index, heat, given, await ctx.doing()))).answer;
}

/** The furnace is lit for a heat. */
export async function lightHeat(ctx: Context, id: Id, given: LightHeat): Promise<{ id: Id }> {
  ctx.may('light furnace');
  const { heat, index } = await heatNow(ctx, id);
  const meter = await meterNow(ctx.store, ctx.now, ctx.tx);
  return (await perform(ctx, index, core.lightHeat(index, heat, given, await ctx.doing(), meter))).answer;
}

/** A shell leaves the kiln. */
export async function shellOut(ctx: Context, id: Id, given: ShellOut): Promise<{ id: Id }> {
  ctx.may('shell out');
  const { heat, index } = await heatNow(ctx, id);
  return (await perform(ctx, index, core.shellOut(index, heat, given, await ctx.doing()))).answer;
}

/** Trees are set in the pit, or taken out of their places. */
export async function setInPit(ctx: Context, id: Id, given: SetInPit): Promise<{ id: Id }> {
  ctx.may('set in pit');
  const { heat, index } = await heatNow(ctx, id);
  const taken = await pitTaken(ctx.store, { exceptHeatId: id, tx: ctx.tx });
  const labels = new Map([...taken].map(([place, { label }]) => [place, label]));
  return (await perform(ctx, index, core.setTreesInPit(index, heat, given, await ctx.doing(), labels))).answer;
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
