import type { Id, SetUpAnew, SetUpWork, ShopIndex, Work } from '@kalvet/core';
import * as core from '@kalvet/core';
import { Op } from 'sequelize';
import { lockShop } from '../shop/locked.ts';
import { perform } from '../shop/perform.ts';
import type { Context } from '../write/context.ts';
import { invalid, notFound } from '../write/problem.ts';

/** Sets up a work: its sections, moulds, pieces, and every step of every piece as the route wants them. */
export async function setUpWork(ctx: Context, given: SetUpWork): Promise<{ id: Id; pieceIds: Id[] }> {
  ctx.may('set up work');
  const wrong = core.wrongSetUp(given);
  if (Object.keys(wrong).length > 0) throw invalid(wrong);
  const same = await ctx.rows<Work>('works', { [Op.or]: [{ code: given.code }, { id: given.id }] }, { lock: true });
  if (same.some(({ id }) => id === given.id))
    throw invalid({ id: 'this work is set up already; open the form again for another one' });
  if (same.length > 0) throw invalid({ code: `${given.code} already stands on the tags of another work` });
  ctx.touchedWorks.add(given.id);
  const act = core.setUpWork(given, await ctx.doing());
  return (await perform(ctx, core.indexShop(core.EMPTY_SHOP), act)).answer;
}

async function claimed(
  ctx: Context,
  id: Id,
  version: number,
  given?: object,
): Promise<{ index: ShopIndex; work: Work }> {
  const index = await lockShop(ctx, [id]);
  if (!index.work.has(id)) throw notFound('work');
  const work = await ctx.claim<Work>('works', id, version, 'work', given);
  return { index, work };
}

/** Sets a work up anew, as long as nothing of it is begun. */
export async function setUpAnew(
  ctx: Context,
  id: Id,
  { version, ...given }: SetUpAnew,
): Promise<{ id: Id; pieceIds: Id[] }> {
  ctx.may('change work');
  const { index, work } = await claimed(ctx, id, version, given);
  const taken = await ctx.rows<Work>('works', { code: given.code, id: { [Op.ne]: id } }, { lock: true });
  if (taken.length > 0) throw invalid({ code: `${given.code} already stands on the tags of another work` });
  return (await perform(ctx, index, core.setUpAnew(index, work, { ...given, id }, await ctx.doing()))).answer;
}

/** Takes a work away that nothing was begun of. */
export async function removeWork(ctx: Context, id: Id, version: number): Promise<{ id: Id }> {
  ctx.may('remove work');
  const { index, work } = await claimed(ctx, id, version);
  return (await perform(ctx, index, core.removeWork(index, work))).answer;
}
