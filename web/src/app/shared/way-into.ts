import { InjectionToken } from '@angular/core';
import type { Room } from '@kalvet/core';

/** Where the rail leads: a room's own page, else its day sheet. The list of pages knows; it is handed in by the frame. */
export type WayInto = (room: Room) => { readonly path: string; readonly query: { readonly room: Room } | null };

export const WAY_INTO = new InjectionToken<WayInto>('the way into a room');
