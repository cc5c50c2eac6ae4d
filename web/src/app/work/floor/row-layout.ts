import type { FloorPiece, Room } from '@kalvet/core';
import { ROOMS } from '@kalvet/core';

/** Where a disc stands in its row: the column of its room, and how far from the column's middle. */
export interface DiscSpot {
  readonly piece: FloorPiece;
  readonly column: number;
  readonly offsetPx: number;
  /** Smaller where the cell is full, so that discs do not touch. */
  readonly size: number;
  /** How many columns the tail reaches ahead; 0 for none. */
  readonly tail: number;
}

/** A cell whose discs do not all fit. */
export interface More {
  readonly column: number;
  readonly offsetPx: number;
  readonly pieces: readonly FloorPiece[];
}

export interface RowLayout {
  readonly discs: readonly DiscSpot[];
  readonly more: readonly More[];
}

const MOST_IN_CELL = 3;
const MORE_PX = 43;
/** The narrow last column also says how many have left: one disc at its left, and "+9" beside it. */
const OUT = { most: 1, offsetPx: -36, morePx: -9 };
const NARROW = { morePx: 20, outPx: -14 };
const STEP_PX = 37;
const STEP_CROWDED_PX = 29;
const SIZE_PX = 38;
const SIZE_CROWDED_PX = 33;

/** The column of a room, 0 for the mould room. */
export const columnOf = (room: Room): number => ROOMS.indexOf(room);

/**
 * Places a row's discs: each in the room of its section furthest behind, at most three a cell and the rest as "+9"; one a
 * cell where columns are narrow.
 */
export function rowLayout(pieces: readonly FloorPiece[], narrow = false): RowLayout {
  const discs: DiscSpot[] = [];
  const more: More[] = [];
  for (const room of ROOMS) {
    const column = columnOf(room);
    const here = pieces.filter((piece) => piece.behind === room);
    const most = room === 'out' ? OUT.most : narrow ? 1 : MOST_IN_CELL;
    const crowded = here.length > most;
    const shown = crowded ? mostUrgent(here).slice(0, most) : here;
    const step = crowded ? STEP_CROWDED_PX : STEP_PX;
    // The "+9" takes a place of its own at the right.
    const places = shown.length + (crowded ? 1 : 0);
    shown.forEach((piece, i) =>
      discs.push({
        piece,
        column,
        offsetPx: room === 'out' ? (narrow ? NARROW.outPx : OUT.offsetPx) : (i - (places - 1) / 2) * step,
        size: crowded ? SIZE_CROWDED_PX : SIZE_PX,
        tail: Math.max(0, columnOf(piece.ahead) - column),
      }),
    );
    if (crowded)
      more.push({
        column,
        offsetPx: room === 'out' ? OUT.morePx : narrow ? NARROW.morePx : MORE_PX,
        pieces: here.filter((piece) => !shown.includes(piece)),
      });
  }
  return { discs, more };
}

/** Late ones, held ones and what wants a decision must not hide behind "+9"; otherwise the nearest due first. */
function mostUrgent(pieces: readonly FloorPiece[]): FloorPiece[] {
  const rank = (piece: FloorPiece) =>
    piece.late ? 0 : piece.decisions.length > 0 ? 1 : piece.state === 'hold' ? 2 : 3;
  return [...pieces].sort(
    (a, b) => rank(a) - rank(b) || (a.dueDate ?? '9').localeCompare(b.dueDate ?? '9') || a.number - b.number,
  );
}
