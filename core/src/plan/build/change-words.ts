import type { DraftChange } from '../../records/draft.ts';
import type { Id } from '../../records/common.ts';
import type { Calendar, Resource } from '../../records/plan.ts';
import { PRIORITY_WORDS } from '../../records/work.ts';
import { castLabel, pieceLabel } from '../../route/labels.ts';
import type { ShopIndex } from '../../route/shop-index.ts';
import { counted } from '../../shop/act.ts';
import type { Part, Text } from '../../units/words.ts';
import { onDay, say } from '../../units/words.ts';

/** What a change is called with: records of what it names, as far as they are still there. */
export interface NamesOfChanges {
  readonly index: ShopIndex;
  readonly calendars: readonly Calendar[];
  readonly resources: readonly Resource[];
}

const GONE = 'what is not there any more';

/** A change of a draft in a founder's words. */
export function changeWords(change: DraftChange, { index, calendars, resources }: NamesOfChanges): Text {
  const resource = (id: Id) => resources.find((each) => each.id === id);
  const piece = (id: Id) => (index.piece.has(id) ? pieceLabel(index, index.piece.get(id)!) : GONE);
  switch (change.kind) {
    case 'open day':
    case 'closed day': {
      const name = calendars.find(({ id }) => id === change.calendarId)?.name ?? GONE;
      const isPour = resources.some(({ kind, calendarId }) => kind === 'crucible' && calendarId === change.calendarId);
      const day = onDay(change.date);
      if (change.kind === 'open day') return isPour ? say`a pour on ${day} too` : say`${name}: open on ${day} too`;
      return isPour ? say`no pour on ${day}` : say`${name}: shut on ${day}`;
    }
    case 'count': {
      const found = resource(change.resourceId);
      return say`${found?.name ?? GONE}: ${change.count} instead of ${found?.count ?? '?'}`;
    }
    case 'hands': {
      const { more, from, to, why } = change;
      const hands = `${Math.abs(more)} ${more > 0 ? 'more' : 'fewer'}`;
      const reason: Part = why === '' ? '' : ` (${why})`;
      const days = from === to ? say`on ${onDay(from)}` : say`from ${onDay(from)} to ${onDay(to)}`;
      return say`${resource(change.resourceId)?.name ?? GONE}: ${hands} ${days}${reason}`;
    }
    case 'mould': {
      const mould = index.mould.get(change.mouldId);
      const title = mould && index.work.get(mould.workId)?.title;
      return mould ? say`another mould like M-${mould.number} ${mould.name} of ${title ?? GONE}` : GONE;
    }
    case 'due':
      return change.dueDate === null
        ? say`${piece(change.pieceId)}: due on no day`
        : say`${piece(change.pieceId)}: due ${onDay(change.dueDate)}`;
    case 'priority':
      return say`${piece(change.pieceId)} ${PRIORITY_WORDS[change.priority]}`;
    case 'hold': {
      const shells = change.shells === 'on' ? ', its shells go on to the seal coat' : '';
      return change.until === null
        ? say`${piece(change.pieceId)}: on hold${shells}`
        : say`${piece(change.pieceId)}: on hold until ${onDay(change.until)}${shells}`;
    }
    case 'lost cast': {
      const cast = index.cast.get(change.castId);
      return say`${cast ? castLabel(index, cast) : GONE} is lost`;
    }
    case 'enquiry': {
      const { title, editionSize, artistProofs, dueDate } = change.work;
      const pieces = counted(editionSize + artistProofs, 'piece');
      return dueDate === null
        ? say`enquiry: ${title}, ${pieces}`
        : say`enquiry: ${title}, ${pieces}, wanted by ${onDay(dueDate)}`;
    }
  }
}
