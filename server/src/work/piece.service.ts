import type { Cast, Id, Piece } from '@kalvet/core';
import { cancelPiece, castLabel, loseCast, modelAgain, pieceLabel, ROOM_NAMES } from '@kalvet/core';
import { carryOut, lockShop, worksOf } from '../shop/locked.ts';
import type { Context } from '../write/context.ts';
import { Problem, invalid, notFound, refused } from '../write/problem.ts';
import type { ChangePiece, Hold, LoseCast, Plain, WithReason } from './piece.schema.ts';

const state = (message: string) => refused([{ rule: 'state', message, mayOverride: false }]);

/** Takes the piece and its work for this write. */
async function claimPiece(ctx: Context, id: Id, given: Plain) {
  const works = await worksOf(ctx, 'piece', id);
  if (works.length === 0) throw notFound('piece');
  const index = await lockShop(ctx, works, [id]);
  const piece = await ctx.claim<Piece>('pieces', id, given.version, 'piece', given);
  ctx.concern('piece', id);
  ctx.concern('work', piece.workId);
  return { index, piece, label: pieceLabel(index, piece) };
}

export async function changePiece(ctx: Context, id: Id, given: ChangePiece): Promise<{ id: Id }> {
  const { index, piece, label } = await claimPiece(ctx, id, given);
  await carryOut(ctx, index.shop, [{ op: 'update', table: 'pieces', id: piece.id, patch: { dueDate: given.dueDate } }]);
  ctx.event = {
    verb: 'change piece',
    text: `${label}: due ${given.dueDate ?? 'no date'} (was ${piece.dueDate ?? 'no date'})`,
  };
  return { id };
}

export async function hold(ctx: Context, id: Id, given: Hold): Promise<{ id: Id }> {
  const { index, piece, label } = await claimPiece(ctx, id, given);
  if (piece.state !== 'in work' && piece.state !== 'not begun')
    throw state(`${label} is ${piece.state}: it cannot be put on hold.`);
  await carryOut(ctx, index.shop, [
    {
      op: 'update',
      table: 'pieces',
      id,
      patch: { state: 'hold', holdReason: given.reason, holdUntil: given.until },
    },
  ]);
  ctx.event = {
    verb: 'hold',
    text: `${label} on hold${given.until ? ` until ${given.until}` : ''}: ${given.reason}`,
    reason: given.reason,
  };
  return { id };
}

export async function release(ctx: Context, id: Id, given: Plain): Promise<{ id: Id }> {
  const { index, piece, label } = await claimPiece(ctx, id, given);
  if (piece.state !== 'hold') throw state(`${label} is not on hold.`);
  const begun = (index.castsOf.get(id) ?? []).some((cast) => cast.state !== 'planned');
  await carryOut(ctx, index.shop, [
    {
      op: 'update',
      table: 'pieces',
      id,
      patch: { state: begun ? 'in work' : 'not begun', holdReason: null, holdUntil: null },
    },
  ]);
  ctx.event = { verb: 'release', text: `${label}: hold taken off (was: ${piece.holdReason})` };
  return { id };
}

export async function cancel(ctx: Context, id: Id, given: WithReason): Promise<{ id: Id }> {
  const { index, piece, label } = await claimPiece(ctx, id, given);
  if (piece.state === 'delivered' || piece.state === 'cancelled') throw state(`${label} is ${piece.state} already.`);
  await carryOut(ctx, index.shop, cancelPiece(index, piece, ctx.now, ctx.newId));
  ctx.event = {
    verb: 'cancel',
    text: `${label} cancelled: ${given.reason}`,
    reason: given.reason,
    bad: true,
  };
  return { id };
}

/** A piece whose only wax was lost is modelled again from nothing: a person's decision. */
export async function decideModelAgain(ctx: Context, id: Id, given: WithReason): Promise<{ id: Id }> {
  const { index, piece, label } = await claimPiece(ctx, id, given);
  if (piece.state !== 'lost') throw state(`${label} is not lost.`);
  await carryOut(ctx, index.shop, modelAgain(index, piece, ctx.newId));
  ctx.event = {
    verb: 'model again',
    text: `${label} is modelled again: ${given.reason}`,
    reason: given.reason,
  };
  return { id };
}

/** A cast is lost outside any step: dropped, broken, a crack seen later. */
export async function lose(ctx: Context, castId: Id, given: LoseCast): Promise<{ id: Id }> {
  const works = await worksOf(ctx, 'cast', castId);
  if (works.length === 0) throw notFound('cast');
  if (given.at > ctx.now) throw invalid({ at: 'cannot be ahead of now' });
  const index = await lockShop(ctx, works);
  const cast = await ctx.claim<Cast>('casts', castId, given.version, 'cast', given);
  const label = castLabel(index, cast);
  if (cast.state === 'lost' || cast.state === 'void') throw state(`${label} is lost already.`);
  if (cast.state === 'planned') throw state(`${label} has not been begun: there is nothing to lose.`);
  const piece = index.piece.get(cast.pieceId);
  if (!piece || piece.state === 'delivered' || piece.state === 'cancelled')
    throw new Problem('refused', 'The piece is closed.', { rule: 'state' });
  await carryOut(ctx, index.shop, loseCast(index, cast, { room: given.room, why: given.why, at: given.at }, ctx.newId));
  ctx.concern('piece', cast.pieceId);
  ctx.concern('work', piece.workId);
  ctx.concern('cast', castId);
  const again = index.section.get(cast.sectionId)?.method === 'direct' ? '' : ': cast again';
  ctx.event = {
    verb: 'lose cast',
    text: `${label} lost in ${ROOM_NAMES[given.room]} (${given.why})${again}`,
    room: given.room,
    doneAt: given.at,
    bad: true,
  };
  return { id: castId };
}
