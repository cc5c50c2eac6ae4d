import type { Id, Room } from '../records/common.ts';
import { ROOM_NAMES } from '../records/common.ts';
import type { Concern, EventDraft } from '../records/history.ts';
import type { ChangePiece, HoldPiece, LoseCast, WithReason } from '../records/piece-writes.ts';
import { never } from '../records/refusal.ts';
import type { Op } from '../records/shop.ts';
import { insert, update } from '../records/shop.ts';
import type { AddOpenItem, CloseOpenItem } from '../records/chasing-page.ts';
import type { OpenItem } from '../records/chasing.ts';
import type { Cast, Piece } from '../records/work.ts';
import { PRIORITY_WORDS } from '../records/work.ts';
import { cancelPieceOps } from '../route/cancel.ts';
import { castLabel, pieceLabel } from '../route/labels.ts';
import { loseCastOps, modelAgainOps } from '../route/lose.ts';
import { openItemLabel } from '../route/open-items.ts';
import type { ShopIndex } from '../route/shop-index.ts';
import type { Part } from '../units/words.ts';
import { onDay, say } from '../units/words.ts';
import type { Act, Doing } from './act.ts';
import { invalidAct, refusedAct } from './act.ts';

const onPiece = (piece: Piece, ops: readonly Op[], event: EventDraft): Act<{ id: Id }> => ({
  refusals: [],
  fields: {},
  passed: [],
  ops,
  answer: { id: piece.id },
  tell: () => ({
    event,
    concerns: [
      ['piece', piece.id],
      ['work', piece.workId],
    ],
  }),
});

const dayOr = (day: string | null): Part => (day === null ? 'no date' : onDay(day));

/** Gives a piece another due date, or none, and another priority where that is said. */
export function changePiece(index: ShopIndex, piece: Piece, given: ChangePiece): Act<{ id: Id }> {
  const { dueDate, priority = piece.priority } = given;
  const label = pieceLabel(index, piece);
  const due = say`due ${dayOr(dueDate)} (was ${dayOr(piece.dueDate)})`;
  const turn = say`${PRIORITY_WORDS[priority]} (was: ${PRIORITY_WORDS[piece.priority]})`;
  const isOther = priority !== piece.priority;
  const text = !isOther
    ? say`${label}: ${due}`
    : dueDate === piece.dueDate
      ? say`${label} ${turn}`
      : say`${label}: ${due}, ${turn}`;
  return onPiece(piece, [update('pieces', piece.id, { dueDate, priority })], { verb: 'change piece', text });
}

/** Stops a piece until somebody takes the hold off, or a day. */
export function holdPiece(index: ShopIndex, piece: Piece, { reason, until, shells }: HoldPiece): Act<{ id: Id }> {
  const label = pieceLabel(index, piece);
  if (piece.state !== 'in work' && piece.state !== 'not begun' && piece.state !== 'hold')
    return refusedAct([never('state', say`${label} is ${piece.state}: it cannot be put on hold.`)]);
  return onPiece(
    piece,
    [update('pieces', piece.id, { state: 'hold', holdReason: reason, holdUntil: until, holdShells: shells ?? 'stop' })],
    {
      verb: 'hold',
      text: say`${label} on hold${until === null ? '' : say` until ${onDay(until)}`}: ${reason}${shells === 'on' ? '; its shells are dipped on to the seal coat' : ''}`,
      reason,
    },
  );
}

export function releasePiece(index: ShopIndex, piece: Piece): Act<{ id: Id }> {
  const label = pieceLabel(index, piece);
  if (piece.state !== 'hold') return refusedAct([never('state', say`${label} is not on hold.`)]);
  const begun = (index.castsOf.get(piece.id) ?? []).some((cast) => cast.state !== 'planned');
  const patch = {
    state: begun ? 'in work' : 'not begun',
    holdReason: null,
    holdUntil: null,
    holdShells: null,
  } as const;
  return onPiece(piece, [update('pieces', piece.id, patch)], {
    verb: 'release',
    text: say`${label}: hold taken off (was: ${piece.holdReason ?? 'no reason given'})`,
  });
}

export function cancelPiece(index: ShopIndex, piece: Piece, { reason }: WithReason, doing: Doing): Act<{ id: Id }> {
  const label = pieceLabel(index, piece);
  if (piece.state === 'delivered' || piece.state === 'cancelled')
    return refusedAct([never('state', say`${label} is ${piece.state} already.`)]);
  return onPiece(piece, cancelPieceOps(index, piece, doing.now, doing.newId), {
    verb: 'cancel',
    text: say`${label} cancelled: ${reason}`,
    reason,
    bad: true,
  });
}

/** A piece whose only wax was lost is modelled again from nothing: a person's decision. */
export function modelAgain(index: ShopIndex, piece: Piece, { reason }: WithReason, doing: Doing): Act<{ id: Id }> {
  const label = pieceLabel(index, piece);
  if (piece.state !== 'lost') return refusedAct([never('state', say`${label} is not lost.`)]);
  return onPiece(piece, modelAgainOps(index, piece, doing.newId), {
    verb: 'model again',
    text: say`${label} is modelled again: ${reason}`,
    reason,
  });
}

const onCast = (cast: Cast, piece: Piece, ops: readonly Op[], event: EventDraft, id: Id = cast.id): Act<{ id: Id }> => {
  const concerns: Concern[] = [
    ['cast', cast.id],
    ['piece', piece.id],
    ['work', piece.workId],
  ];
  return { refusals: [], fields: {}, passed: [], ops, answer: { id }, tell: () => ({ event, concerns }) };
};

/** A cast is lost outside any step: dropped, broken, a crack seen later. */
export function loseCast(index: ShopIndex, cast: Cast, given: LoseCast, doing: Doing): Act<{ id: Id }> {
  if (given.at > doing.now) return invalidAct({ at: 'cannot be ahead of now' });
  const label = castLabel(index, cast);
  const state = (message: ReturnType<typeof say>) => refusedAct<{ id: Id }>([never('state', message)]);
  if (cast.state === 'lost' || cast.state === 'void') return state(say`${label} is lost already.`);
  if (cast.state === 'planned') return state(say`${label} has not been begun: there is nothing to lose.`);
  const piece = index.piece.get(cast.pieceId);
  if (!piece || piece.state === 'delivered' || piece.state === 'cancelled') return state(say`The piece is closed.`);
  const again = index.section.get(cast.sectionId)?.method === 'direct' ? '' : ': cast again';
  const room: Room = given.room;
  return onCast(cast, piece, loseCastOps(index, cast, { room, why: given.why, at: given.at }, doing.newId), {
    verb: 'lose cast',
    text: say`${label} lost in ${ROOM_NAMES[room]} (${given.why})${again}`,
    room,
    doneAt: given.at,
    bad: true,
  });
}

/** Opens a line of the ledger: something was cut out, cut off or put in that must not be forgotten. */
export function addOpenItem(index: ShopIndex, given: AddOpenItem, doing: Doing): Act<{ id: Id }> {
  const cast = index.cast.get(given.castId)!;
  if (cast.state === 'lost' || cast.state === 'void')
    return refusedAct([never('lost', say`${castLabel(index, cast)} is lost.`)]);
  const item: OpenItem = { ...given, openedAt: doing.now, closedAt: null, closedHow: null, closedNote: '', version: 1 };
  const event: EventDraft = {
    verb: 'open item',
    text: say`To be put back or taken out: ${openItemLabel(index, item)}`,
    room: 'chasing',
  };
  return onCast(cast, index.piece.get(cast.pieceId)!, [insert('openItems', item)], event, given.id);
}

/** Closes a line: put back, taken out, or left inside on purpose. */
export function closeOpenItem(index: ShopIndex, item: OpenItem, given: CloseOpenItem, doing: Doing): Act<{ id: Id }> {
  if (item.closedAt !== null) return refusedAct([never('closed', say`It is ${item.closedHow ?? 'closed'} already.`)]);
  const cast = index.cast.get(item.castId)!;
  const patch = { closedAt: doing.now, closedHow: given.how, closedNote: given.note };
  const event: EventDraft = {
    verb: 'close item',
    text: say`${openItemLabel(index, item)}: ${given.how}${given.note ? `, ${given.note}` : ''}`,
    room: 'chasing',
  };
  return onCast(cast, index.piece.get(cast.pieceId)!, [update('openItems', item.id, patch)], event, item.id);
}
