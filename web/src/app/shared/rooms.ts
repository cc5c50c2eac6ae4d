import type { Room } from '@kalvet/core';
import { ROOMS } from '@kalvet/core';

/** The eight rooms that are columns of the Floor; delivery stands apart. */
export const RAIL: readonly Room[] = ROOMS.filter((room) => room !== 'out');

/** The colour of what a piece is made of in a room. */
export const roomColour = (room: Room): string => `var(--room-${room})`;
