import type { FloorPiece, FloorWork, Room } from '@kalvet/core';
import { ROOMS } from '@kalvet/core';

/** What of the shop is shown; kept in the address, so that a view can be shared. */
export interface FloorFilter {
  readonly work: string | null;
  readonly room: Room | null;
  readonly client: string | null;
  readonly order: string | null;
  readonly hold: boolean;
  readonly late: boolean;
}

export const NO_FILTER: FloorFilter = { work: null, room: null, client: null, order: null, hold: false, late: false };

export const isFiltered = ({ work, room, client, order, hold, late }: FloorFilter): boolean =>
  [work, room, client, order].some((each) => each !== null) || hold || late;

/** Reads the filter from an address; what is not known there is left out. */
export function filterFrom(query: Readonly<Record<string, string | null>>): FloorFilter {
  const room = query['room'] as Room | null;
  return {
    work: query['work'] ?? null,
    room: room && ROOMS.includes(room) ? room : null,
    client: query['client'] ?? null,
    order: query['order'] ?? null,
    hold: query['hold'] === '1',
    late: query['late'] === '1',
  };
}

/** The filter as an address carries it; nothing for what is not set. */
export const queryOf = ({ work, room, client, order, hold, late }: FloorFilter): Record<string, string | null> => ({
  work,
  room,
  client,
  order,
  hold: hold ? '1' : null,
  late: late ? '1' : null,
});

/** A piece is in a room when any of its sections is. */
const shown = (piece: FloorPiece, filter: FloorFilter, clientOf: ReadonlyMap<string, string>): boolean =>
  (filter.room === null || piece.sections.some(({ room }) => room === filter.room)) &&
  (filter.order === null || piece.orderId === filter.order) &&
  (filter.client === null || clientOf.get(piece.orderId ?? '') === filter.client) &&
  (!filter.hold || piece.state === 'hold') &&
  (!filter.late || piece.late);

/** The works and pieces that the filter lets through; a work without any is left out while something about pieces is asked. */
export function filterWorks(
  works: readonly FloorWork[],
  filter: FloorFilter,
  clientOf: ReadonlyMap<string, string> = new Map(),
): FloorWork[] {
  const aboutPieces = isFiltered({ ...filter, work: null });
  return works
    .filter((work) => filter.work === null || work.id === filter.work)
    .map((work) => ({ ...work, pieces: work.pieces.filter((piece) => shown(piece, filter, clientOf)) }))
    .filter((work) => !aboutPieces || work.pieces.length > 0);
}
