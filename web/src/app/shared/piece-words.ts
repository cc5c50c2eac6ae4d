import type { Day, FloorPiece, Room } from '@kalvet/core';
import { ROOMS, ROOM_NAMES, formatDay, markOf } from '@kalvet/core';

/** `2 in Shell, 1 in Pour`. */
export function spread(sections: readonly { readonly room: Room }[]): string {
  return ROOMS.map((room) => ({ room, count: sections.filter((section) => section.room === room).length }))
    .filter(({ count }) => count > 0)
    .map(({ room, count }) => `${count} in ${ROOM_NAMES[room]}`)
    .join(', ');
}

/** Whether it is late already or will be by its plan, and by how much. */
export function lateInWords({ lateDays, dueDate }: Pick<FloorPiece, 'lateDays' | 'dueDate'>, today: Day): string {
  return `late by ${lateDays} ${lateDays === 1 ? 'day' : 'days'}${dueDate ? `, due ${formatDay(dueDate, today)}` : ''}`;
}

/** What the disc shows, in words: for hover, focus and screen readers. */
export function pieceInWords(title: string, piece: FloorPiece, today: Day): string {
  const where =
    piece.sections.length > 1
      ? `${piece.sections.length} sections: ${spread(piece.sections)}`
      : `in ${ROOM_NAMES[piece.behind]}`;
  const recast = piece.sections
    .filter((section) => section.recast)
    .map(({ name, attempt }) => `${name} is cast again, attempt ${attempt}`);
  return [
    `${title} ${markOf(piece)}`,
    where,
    ...recast,
    ...(piece.state === 'hold' ? [`on hold: ${piece.holdReason ?? ''}`] : []),
    ...(piece.state === 'lost' ? ['lost: wants a decision'] : []),
    ...(piece.late ? [lateInWords(piece, today)] : []),
  ].join(' · ');
}
