import type { AddOpenItem, Cast, CloseOpenItem, Id, OpenItem } from '@kalvet/core';
import * as core from '@kalvet/core';
import { lockCarriers } from '../shop/locked.ts';
import { perform } from '../shop/perform.ts';
import type { Context } from '../write/context.ts';
import { notFound } from '../write/problem.ts';

async function lockCast(ctx: Context, castId: Id) {
  const cast = await ctx.find<Cast>('casts', castId);
  if (!cast) throw notFound('cast');
  return lockCarriers(ctx, [['cast', castId]], { alsoPieces: [cast.pieceId] });
}

/** Opens a line of the ledger: something was cut out, cut off or put in that must not be forgotten. */
export async function addOpenItem(ctx: Context, given: AddOpenItem): Promise<{ id: Id }> {
  ctx.may('open item');
  const index = await lockCast(ctx, given.castId);
  return (await perform(ctx, index, core.addOpenItem(index, given, await ctx.doing()))).answer;
}

/** Closes a line: put back, taken out, or left inside on purpose. */
export async function closeOpenItem(ctx: Context, itemId: Id, given: CloseOpenItem): Promise<{ id: Id }> {
  const found = await ctx.find<OpenItem>('openItems', itemId);
  if (!found) throw notFound('line');
  ctx.may('close item');
  const index = await lockCast(ctx, found.castId);
  const item = await ctx.claim<OpenItem>('openItems', itemId, given.version, 'line', given);
  return (await perform(ctx, index, core.closeOpenItem(index, item, given, await ctx.doing()))).answer;
}
