import type { Abandon, Id, Load, LoadPlace, PlanLoad, RecordLoad, ShopIndex } from '@kalvet/core';
import * as core from '@kalvet/core';
import { lockCarriers } from '../shop/locked.ts';
import { perform } from '../shop/perform.ts';
import type { Context } from '../write/context.ts';
import { invalid, notFound } from '../write/problem.ts';

/** Plans a load, and where it is written up at once, records it in the same transaction. */
export async function planLoad(ctx: Context, given: PlanLoad): Promise<{ id: Id; number: number }> {
  ctx.may('plan load', 'burnout');
  if (await ctx.find('loads', given.id)) throw invalid({ id: 'this load is planned already; open the form again' });
  const index = await lockCarriers(
    ctx,
    given.treeIds.map((id) => ['tree', id] as const),
  );
  if (given.treeIds.some((id) => !index.tree.has(id))) throw notFound('tree');
  const { answer, after } = await perform(ctx, index, core.planLoad(index, given, await ctx.doing()));
  return { ...answer, number: after.load.get(given.id)!.number };
}

/** The load, taken for this write, with its trees' works. */
export async function claimLoad(
  ctx: Context,
  id: Id,
  given: { readonly version: number },
): Promise<{ load: Load; index: ShopIndex }> {
  const load = await ctx.claim<Load>('loads', id, given.version, 'load', given);
  const places = await ctx.rows<LoadPlace>('loadPlaces', { loadId: id });
  const index = await lockCarriers(
    ctx,
    places.map(({ treeId }) => ['tree', treeId] as const),
    { loadIds: [id] },
  );
  return { load, index };
}

/** Records a planned load: its members' steps are closed in the same transaction, each with its own outcome. */
export async function recordLoad(ctx: Context, id: Id, { version, ...given }: RecordLoad): Promise<{ id: Id }> {
  ctx.may('record load', 'burnout');
  const { load, index } = await claimLoad(ctx, id, { version });
  await perform(ctx, index, core.fireLoad(index, load, given, await ctx.doing()));
  return { id };
}

/** A planned load is given up; its trees wait for another one. */
export async function abandonLoad(ctx: Context, id: Id, given: Abandon): Promise<{ id: Id }> {
  ctx.may('abandon load', 'burnout');
  const { load, index } = await claimLoad(ctx, id, given);
  return (await perform(ctx, index, core.abandonLoad(index, load, given))).answer;
}
