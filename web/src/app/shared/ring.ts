import type { Room } from '@kalvet/core';
import { ROOMS } from '@kalvet/core';

/** One stretch of a piece's ring, in turns from the top, clockwise. */
export interface RingArc {
  readonly room: Room;
  readonly from: number;
  readonly to: number;
}

/** Above so many sections the ring shows one arc a room, as long as its share. */
const MOST_SINGLE_ARCS = 8;

/**
 * The ring of a piece in sections: arcs in the rooms' order clockwise, so that the ring reads as a share. One section has
 * no ring.
 */
export function ringArcs(sections: readonly { readonly room: Room }[]): RingArc[] {
  if (sections.length < 2) return [];
  const sorted = sections.map(({ room }) => room).sort((a, b) => ROOMS.indexOf(a) - ROOMS.indexOf(b));
  const share = 1 / sorted.length;
  if (sorted.length <= MOST_SINGLE_ARCS)
    return sorted.map((room, i) => ({ room, from: i * share, to: (i + 1) * share }));
  const arcs: RingArc[] = [];
  sorted.forEach((room, i) => {
    const last = arcs.at(-1);
    if (last?.room === room) arcs[arcs.length - 1] = { ...last, to: (i + 1) * share };
    else arcs.push({ room, from: i * share, to: (i + 1) * share });
  });
  return arcs;
}
