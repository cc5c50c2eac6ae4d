import type { DraftPiece } from '@kalvet/core';
import { addDays, dayNumberOf, toMs } from '@kalvet/core';
import { scaleLinear } from 'd3';
import type { ScaleLinear } from 'd3';

/** How a piece fares by a draft. */
export type Fate = 'new' | 'late' | 'saved' | 'later' | 'sooner' | 'same';

export const FATE_NAMES: Readonly<Record<Fate, string>> = {
  new: 'new',
  late: 'late by it',
  saved: 'in time by it',
  later: 'later',
  sooner: 'sooner',
  same: 'the same day',
};

/** What a draft does to a piece, by what matters most: whether it becomes late or is saved, then which way it moves. */
export function fateOf({ isNew, before, after, lateBefore, lateAfter }: DraftPiece): Fate {
  if (isNew) return 'new';
  if (lateBefore === 0 && lateAfter > 0) return 'late';
  if (lateBefore > 0 && lateAfter === 0 && after !== null) return 'saved';
  const moved = toMs(after ?? before ?? '') - toMs(before ?? after ?? '');
  return moved > 0 ? 'later' : moved < 0 ? 'sooner' : 'same';
}

/** A row of the picture: where it was to be out, where it would be, and when it is due, in px. */
export interface MovedRow {
  readonly piece: DraftPiece;
  readonly fate: Fate;
  readonly y: number;
  readonly before: number | null;
  readonly after: number | null;
  readonly ninety: number | null;
  readonly due: number | null;
}

export interface MovedPicture {
  readonly rows: readonly MovedRow[];
  readonly x: ScaleLinear<number, number>;
  readonly height: number;
}

const MARGIN_DAYS = 2;

/**
 * Pieces down, days across: from where each was to be out to where it would be.
 * @param dayOf the shop's day of an instant, counted, with its part of the day
 */
export function movedPicture(
  pieces: readonly DraftPiece[],
  dayOf: (instant: string) => number,
  { width, rowPx, today }: { readonly width: number; readonly rowPx: number; readonly today: number },
): MovedPicture {
  const at = (instant: string | null | undefined) => (instant ? dayOf(instant) : null);
  // A piece that is due on a day is in time until its midnight.
  const due = (day: string | null) => (day === null ? null : dayNumberOf(addDays(day, 1)));
  const all = pieces.map((piece) => ({
    piece,
    before: at(piece.before),
    after: at(piece.after),
    ninety: at(piece.likely?.ninetyAt),
    due: due(piece.dueDate),
  }));
  const days = all.flatMap((each) => [each.before, each.after, each.ninety, each.due].filter((day) => day !== null));
  const x = scaleLinear(
    [Math.min(today, ...days) - MARGIN_DAYS, Math.max(today + 7, ...days) + MARGIN_DAYS],
    [0, width],
  );
  const px = (day: number | null) => (day === null ? null : x(day));
  return {
    x,
    height: all.length * rowPx,
    rows: all.map(({ piece, ...days }, i) => ({
      piece,
      fate: fateOf(piece),
      y: i * rowPx + rowPx / 2,
      before: px(days.before),
      after: px(days.after),
      ninety: px(days.ninety),
      due: px(days.due),
    })),
  };
}

/** Mondays to write at, some weeks apart where there is no room for each: `[place, day]`. */
export function mondays(
  x: ScaleLinear<number, number>,
  roomPx: number,
): readonly (readonly [px: number, day: number])[] {
  const [from, to] = x.domain() as [number, number];
  const [, width] = x.range() as [number, number];
  // Day 0 was a Thursday: the first Monday after it is day 4.
  const first = Math.ceil((from - 4) / 7) * 7 + 4;
  const apart = 7 * Math.max(1, Math.ceil(roomPx / (x(7) - x(0))));
  const days: (readonly [number, number])[] = [];
  for (let day = first; day <= to && x(day) + roomPx <= width; day += apart) days.push([x(day), day]);
  return days;
}
