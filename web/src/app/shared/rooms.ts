import type { Room } from '@kalvet/core';

export { RAIL } from '@kalvet/core';

/** The colour of what a piece is made of in a room. */
export const roomColour = (room: Room): string => `var(--room-${room})`;
