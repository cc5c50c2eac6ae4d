import type { DraftChange } from '../../records/draft.ts';
import type { Calendar, Staffing } from '../../records/plan.ts';
import type { Op } from '../../records/shop.ts';
import { applyOps } from '../../records/shop.ts';
import type { Day } from '../../units/instant.ts';
import type { Text } from '../../units/words.ts';
import { joined, onDay, say } from '../../units/words.ts';
import type { Act, Doing } from '../../shop/act.ts';
import { isPossible } from '../../shop/act.ts';
import { addMould } from '../../shop/add-mould.ts';
import { indexShop } from '../../shop/index-shop.ts';
import { changePiece, holdPiece, loseCast } from '../../shop/piece-acts.ts';
import { setUpWork } from '../../shop/set-up-work.ts';
import { dayNumber, weekday } from '../dates.ts';
import type { PlanSnapshot } from './snapshot.ts';

/** A shop as it would be, and which changes cannot be made, by their place. */
export interface Tried {
  readonly snapshot: PlanSnapshot;
  readonly faults: readonly { readonly place: number; readonly text: Text }[];
}

/** Tries changes on a shop one after another, by the same acts that make them real; what cannot be done is left out, and said. */
export function tryChanges(given: PlanSnapshot, changes: readonly DraftChange[], doing: Doing): Tried {
  let snapshot = given;
  const faults: { place: number; text: Text }[] = [];
  changes.forEach((change, place) => {
    const tried = tryChange(snapshot, change, doing);
    if ('index' in tried) snapshot = tried;
    else faults.push({ place, text: tried.fault });
  });
  return { snapshot, faults };
}

type Fault = { readonly fault: Text };
const gone = (what: string): Fault => ({ fault: `${what} is not there any more.` });

function tryChange(snapshot: PlanSnapshot, change: DraftChange, doing: Doing): PlanSnapshot | Fault {
  const { index, resources, staffing = [] } = snapshot;
  switch (change.kind) {
    case 'open day':
    case 'closed day':
      return onCalendar(snapshot, change);
    case 'count':
      if (!resources.some(({ id }) => id === change.resourceId)) return gone('What it counts');
      return {
        ...snapshot,
        resources: resources.map((each) => (each.id === change.resourceId ? { ...each, count: change.count } : each)),
      };
    case 'hands':
      if (!resources.some(({ id, kind }) => id === change.resourceId && kind === 'people')) return gone('The room');
      return { ...snapshot, staffing: [...staffing, staffingOf(change, doing.newId())] };
    case 'mould': {
      const mould = index.mould.get(change.mouldId);
      const work = mould && index.work.get(mould.workId);
      if (!mould || !work) return gone('The mould');
      const { name, sectionIds } = mould;
      const like = { id: doing.newId(), name: nextName(name, index.mouldsOf.get(work.id) ?? []), sectionIds };
      return acted(snapshot, addMould(index, work, like, doing.newId));
    }
    case 'due': {
      const piece = index.piece.get(change.pieceId);
      return piece
        ? acted(snapshot, changePiece(index, piece, { ...change, version: piece.version }))
        : gone('The piece');
    }
    case 'priority': {
      const piece = index.piece.get(change.pieceId);
      if (!piece) return gone('The piece');
      const { dueDate, version } = piece;
      return acted(snapshot, changePiece(index, piece, { dueDate, version, priority: change.priority }));
    }
    case 'hold': {
      const piece = index.piece.get(change.pieceId);
      if (!piece) return gone('The piece');
      const { until, shells } = change;
      return acted(snapshot, holdPiece(index, piece, { reason: 'draft', until, shells, version: piece.version }));
    }
    case 'lost cast': {
      const cast = index.cast.get(change.castId);
      if (!cast) return gone('The cast');
      const given = { room: 'wax', why: 'draft', at: doing.now, version: cast.version } as const;
      return acted(snapshot, loseCast(index, cast, given, doing));
    }
    case 'enquiry':
      // A code that is taken by now counts for nothing here.
      return acted(snapshot, setUpWork({ ...change.work, id: doing.newId() }, doing));
  }
}

/** `Lid 2` after `Lid`: the name of a mould beside those that are there. */
export function nextName(name: string, moulds: readonly { readonly name: string }[]): string {
  const taken = new Set(moulds.map((each) => each.name));
  let n = 2;
  while (taken.has(`${name} ${n}`)) n++;
  return `${name} ${n}`;
}

export const staffingOf = (
  { resourceId, more, from, to, why }: Extract<DraftChange, { kind: 'hands' }>,
  id: string,
): Staffing => ({ id, resourceId, more, from, to, why, version: 1 });

function acted(snapshot: PlanSnapshot, act: Act): PlanSnapshot | Fault {
  if (isPossible(act)) return withOps(snapshot, act.ops);
  const texts = [...act.refusals.map(({ message }) => message), ...Object.values(act.fields)];
  return { fault: joined(texts) };
}

function withOps(snapshot: PlanSnapshot, ops: readonly Op[]): PlanSnapshot {
  return { ...snapshot, index: indexShop(applyOps(snapshot.index.shop, ops)) };
}

function onCalendar(
  snapshot: PlanSnapshot,
  change: Extract<DraftChange, { kind: 'open day' | 'closed day' }>,
): PlanSnapshot | Fault {
  const calendar = snapshot.calendars.find(({ id }) => id === change.calendarId);
  if (!calendar) return gone('The hours');
  const changed = change.kind === 'open day' ? openOn(calendar, change.date) : shutOn(calendar, change.date);
  if (!changed)
    return {
      fault: say`${calendar.name} ${change.kind === 'open day' ? 'are open' : 'are shut'} on ${onDay(change.date)} already.`,
    };
  return { ...snapshot, calendars: snapshot.calendars.map((each) => (each === calendar ? changed : each)) };
}

const isOpenOn = ({ always, weekly, closed, extra }: Calendar, date: Day): boolean =>
  always ||
  extra.some((each) => each.date === date) ||
  (!closed.includes(date) && weekly.some(({ day }) => day === weekday(dayNumber(date)!)));

/** Open on a date too, with the hours of its weekday, else those of its first day of the week; undefined where it is open already. */
export function openOn(calendar: Calendar, date: Day): Calendar | undefined {
  if (isOpenOn(calendar, date) || calendar.weekly.length === 0) return undefined;
  const wanted = weekday(dayNumber(date)!);
  const day = calendar.weekly.some((each) => each.day === wanted)
    ? wanted
    : Math.min(...calendar.weekly.map((each) => each.day));
  const hours = calendar.weekly.filter((each) => each.day === day).map(({ from, to }) => ({ date, from, to }));
  // A day that was shut on purpose is opened by being shut no longer.
  const closed = calendar.closed.filter((each) => each !== date);
  return day === wanted && closed.length < calendar.closed.length
    ? { ...calendar, closed }
    : { ...calendar, closed, extra: [...calendar.extra, ...hours] };
}

/** Shut on a date; undefined where it is so already. */
export function shutOn(calendar: Calendar, date: Day): Calendar | undefined {
  if (!isOpenOn(calendar, date) || calendar.always) return undefined;
  const extra = calendar.extra.filter((each) => each.date !== date);
  const closed = calendar.closed.includes(date) ? calendar.closed : [...calendar.closed, date].sort();
  return { ...calendar, extra, closed };
}
