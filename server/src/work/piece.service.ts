import type {
  Act,
  Cast,
  ChangePiece,
  Doing,
  HoldPiece,
  Id,
  LoseCast,
  Piece,
  ShopIndex,
  Verb,
  Versioned,
  WithReason,
} from '@kalvet/core';
import * as core from '@kalvet/core';
import { lockCarriers, lockPiece } from '../shop/locked.ts';
import { perform } from '../shop/perform.ts';
import type { Context } from '../write/context.ts';
import { notFound } from '../write/problem.ts';

type PieceAct = (index: ShopIndex, piece: Piece, doing: Doing) => Act<{ id: Id }>;

/** Takes the piece and its work for this write, asks core, carries out. */
async function onPiece(ctx: Context, verb: Verb, id: Id, given: Versioned, act: PieceAct): Promise<{ id: Id }> {
  ctx.may(verb);
  const index = await lockCarriers(ctx, [['piece', id]], { alsoPieces: [id] });
  const piece = await ctx.claim<Piece>('pieces', id, given.version, 'piece', given);
  return (await perform(ctx, index, act(index, piece, await ctx.doing()))).answer;
}

/** Changes what stands in the piece's own row alone: its due date. What is kept ready of the shop does not know it. */
export async function changePiece(ctx: Context, id: Id, given: ChangePiece): Promise<{ id: Id }> {
  ctx.may('change piece');
  const index = await lockPiece(ctx, id);
  const piece = await ctx.claim<Piece>('pieces', id, given.version, 'piece', given);
  return (await perform(ctx, index, core.changePiece(index, piece, given))).answer;
}

export const hold = (ctx: Context, id: Id, given: HoldPiece) =>
  onPiece(ctx, 'hold', id, given, (index, piece) => core.holdPiece(index, piece, given));

export const release = (ctx: Context, id: Id, given: Versioned) =>
  onPiece(ctx, 'release', id, given, (index, piece) => core.releasePiece(index, piece));

export const cancel = (ctx: Context, id: Id, given: WithReason) =>
  onPiece(ctx, 'cancel', id, given, (index, piece, doing) => core.cancelPiece(index, piece, given, doing));

/** A piece whose only wax was lost is modelled again from nothing: a person's decision. */
export const decideModelAgain = (ctx: Context, id: Id, given: WithReason) =>
  onPiece(ctx, 'model again', id, given, (index, piece, doing) => core.modelAgain(index, piece, given, doing));

/** A cast is lost outside any step: dropped, broken, a crack seen later. */
export async function lose(ctx: Context, castId: Id, given: LoseCast): Promise<{ id: Id }> {
  ctx.may('lose cast');
  const found = await ctx.find<Cast>('casts', castId);
  if (!found) throw notFound('cast');
  const index = await lockCarriers(ctx, [['cast', castId]], { alsoPieces: [found.pieceId] });
  const cast = await ctx.claim<Cast>('casts', castId, given.version, 'cast', given);
  return (await perform(ctx, index, core.loseCast(index, cast, given, await ctx.doing()))).answer;
}
