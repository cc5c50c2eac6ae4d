import type { RouteTimes } from './planning.ts';

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

/** What a step is done to. */
export const CARRIERS = ['mould', 'cast', 'tree', 'piece', 'load', 'heat'] as const;
export type Carrier = (typeof CARRIERS)[number];

/** Somebody who works here. Until sign-in comes, who one is is a statement, not a proof. */
export interface Person {
  readonly id: Id;
  readonly name: string;
  readonly shortName: string;
  /** May pass a rule that can be overridden, with a reason. */
  readonly mayOverride: boolean;
  readonly active: boolean;
  readonly version: number;
}

/** Shop settings that this version of Kalvet uses. */
export interface ShopSettings {
  readonly shopName: string;
  /** IANA name; decides "today" and every printed hour. */
  readonly timeZone: string;
  readonly liftLimitKg: number;
  readonly waxBand: number;
  readonly crucibleHoldsKg: number;
  readonly crucibleUsableKg: number;
  readonly kilnPlaces: number;
  readonly meltLoss: number;
  readonly returnsShare: number;
  readonly pigReserveKg: number;
  /** The empty crucible, what it is carried with, and by how many. */
  readonly crucibleKg: number;
  readonly tongsKg: number;
  readonly carriers: number;
  /** Power at the burner or coil, and the share of it that reaches the metal. */
  readonly furnaceKw: number;
  readonly furnaceEfficiency: number;
  /** The shop's own minutes and waits; the default route's where it has none. */
  readonly routeTimes: RouteTimes;
}

export const DEFAULT_SETTINGS: ShopSettings = {
  shopName: 'Foundry',
  timeZone: 'Europe/London',
  liftLimitKg: 25,
  waxBand: 0.1,
  crucibleHoldsKg: 130,
  crucibleUsableKg: 120,
  kilnPlaces: 12,
  meltLoss: 0.02,
  returnsShare: 0.5,
  pigReserveKg: 2,
  crucibleKg: 24,
  tongsKg: 14,
  carriers: 2,
  furnaceKw: 110,
  furnaceEfficiency: 0.12,
  routeTimes: {},
};
