/** UUIDv7, made by the client or the server. */
export type Id = string;

/** The rooms in the order of the work; `out` is delivery. */
export const ROOMS = ['mould', 'wax', 'sprue', 'shell', 'burnout', 'pour', 'chasing', 'patina', 'out'] as const;

export type Room = (typeof ROOMS)[number];

export const ROOM_NAMES: Readonly<Record<Room, string>> = {
  mould: 'Mould',
  wax: 'Wax',
  sprue: 'Sprue',
  shell: 'Shell',
  burnout: 'Burnout',
  pour: 'Pour',
  chasing: 'Chasing',
  patina: 'Patina',
  out: 'Out',
};

/** The eight rooms that a piece goes through, in which work is done; delivery stands apart. */
export const RAIL: readonly Room[] = ROOMS.filter((room) => room !== 'out');

/** What a step is done to. */
export const CARRIERS = ['mould', 'cast', 'tree', 'piece', 'load', 'heat'] as const;

export type Carrier = (typeof CARRIERS)[number];
