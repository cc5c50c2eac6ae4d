import Joi from 'joi';
import type { AddOpenItem, Cast, CloseOpenItem, Id, OpenItem } from '@kalvet/core';
import { OPEN_ITEM_ENDS, OPEN_ITEM_KINDS, castLabel, insert, openItemLabel, update } from '@kalvet/core';
import { carryOut, lockShop, worksOf } from '../shop/locked.ts';
import type { Context } from '../write/context.ts';
import { notFound, refused } from '../write/problem.ts';
import { form, id, version } from '../write/schemas.ts';

const words = (max: number) => Joi.string().trim().allow('').max(max).required();

export const addOpenItemSchema = form<AddOpenItem>({
  id: id().required(),
  castId: id().required(),
  kind: Joi.string()
    .valid(...OPEN_ITEM_KINDS)
    .required(),
  what: words(300),
});

export const closeOpenItemSchema = form<CloseOpenItem>({
  version: version(),
  how: Joi.string()
    .valid(...OPEN_ITEM_ENDS)
    .required(),
  note: words(500),
});

async function lockCast(ctx: Context, castId: Id) {
  const cast = await ctx.find<Cast>('casts', castId);
  if (!cast) throw notFound('cast');
  const index = await lockShop(ctx, await worksOf(ctx, 'cast', castId), [cast.pieceId]);
  ctx.concern('cast', castId);
  ctx.concern('piece', cast.pieceId);
  return { index, cast };
}

/** Opens a line of the ledger: something was cut out, cut off or put in that must not be forgotten. */
export async function addOpenItem(ctx: Context, given: AddOpenItem): Promise<{ id: Id }> {
  const { index, cast } = await lockCast(ctx, given.castId);
  if (cast.state === 'lost' || cast.state === 'void')
    throw refused([{ rule: 'lost', message: `${castLabel(index, cast)} is lost.`, mayOverride: false }]);
  const item: OpenItem = { ...given, openedAt: ctx.now, closedAt: null, closedHow: null, closedNote: '', version: 1 };
  await carryOut(ctx, index.shop, [insert('openItems', item)]);
  ctx.event = {
    verb: 'open item',
    text: `To be put back or taken out: ${openItemLabel(index, item)}`,
    room: 'chasing',
  };
  return { id: given.id };
}

/** Closes a line: put back, taken out, or left inside on purpose. */
export async function closeOpenItem(ctx: Context, itemId: Id, given: CloseOpenItem): Promise<{ id: Id }> {
  const found = await ctx.find<OpenItem>('openItems', itemId);
  if (!found) throw notFound('line');
  const { index } = await lockCast(ctx, found.castId);
  const item = await ctx.claim<OpenItem>('openItems', itemId, given.version, 'line', given);
  if (item.closedAt !== null)
    throw refused([{ rule: 'closed', message: `It is ${item.closedHow} already.`, mayOverride: false }]);
  await carryOut(ctx, index.shop, [
    update('openItems', itemId, { closedAt: ctx.now, closedHow: given.how, closedNote: given.note }),
  ]);
  ctx.event = {
    verb: 'close item',
    text: `${openItemLabel(index, item)}: ${given.how}${given.note ? `, ${given.note}` : ''}`,
    room: 'chasing',
  };
  return { id: itemId };
}
