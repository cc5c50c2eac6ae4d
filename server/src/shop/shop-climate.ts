import type { DryingPlace, DrynessReading, Id, KeptClimate, KilnProfile, ShopClimate, TankStand } from '@kalvet/core';
import { addMinutes, dryingAir, learnedDrying } from '@kalvet/core';
import type { Model, Transaction } from 'sequelize';
import { Op } from 'sequelize';
import { rowsOf } from '../db/rows.ts';
import { settingsOf } from '../people/settings.ts';
import type { Store } from '../write/store.ts';
import { shopTanks } from './shop-tanks.ts';

/** So far back a coat can have been dipped and still dry. */
const BACK_MIN = 14 * 24 * 60;
/** Looks at coats that the reference time is learned from. */
const LOOKS = 200;

/** Counts what changes about the air, the tanks and the kiln's profiles, so that they are read once for many questions. */
export const CLIMATE = 'climate';

/** What the rooms' own records say beside the steps: the shell room's air, how its tanks stand, how the kiln fires. */
export interface ShopAround {
  readonly climate?: ShopClimate;
  readonly tanks?: readonly TankStand[];
  readonly profiles?: readonly KilnProfile[];
}

interface Known {
  readonly count: number;
  readonly around: ShopAround;
}
const known = new WeakMap<Store, Known>();

/** Forgets what was worked out: the records were laid anew under it. */
export function forgetClimate(store: Store): void {
  known.delete(store);
  recent.delete(store);
}

/** How often the air, the places or what was learned of them changed. */
export async function climateCount({ models }: Store, tx?: Transaction): Promise<number> {
  const row = await models.counters.findByPk(CLIMATE, { raw: true, transaction: tx ?? null });
  return Number((row as unknown as { value: number } | null)?.value ?? 0);
}

/** Says that the air is other than it was. Part of the write that changes it. */
export async function climateChanged({ models }: Store, tx?: Transaction): Promise<void> {
  await models.counters.increment('value', { where: { name: CLIMATE }, transaction: tx ?? null });
}

/** Drying places: rooms before cabinets. */
export async function dryingPlaces(store: Store, tx?: Transaction): Promise<DryingPlace[]> {
  const places = await rowsOf<DryingPlace>(store, 'dryingPlaces', {}, tx);
  const order = ({ kind, name }: DryingPlace) => `${kind === 'room' ? 0 : 1}${name}`;
  return places.sort((a, b) => order(a).localeCompare(order(b)) || a.id.localeCompare(b.id));
}

/** The newest reading of a place, or none. */
export async function lastClimate(store: Store, placeId: Id, tx?: Transaction): Promise<KeptClimate | undefined> {
  const at = await store.models.climate.max<Date | null, Model>('at', { where: { placeId }, transaction: tx ?? null });
  if (at === null) return undefined;
  return (await rowsOf<KeptClimate>(store, 'climate', { placeId, at }, tx))[0];
}

/** Readings of a place since so many minutes before its newest, in the order of time. */
export async function climateSince(
  store: Store,
  placeId: Id,
  minutes: number,
  tx?: Transaction,
): Promise<KeptClimate[]> {
  const last = await lastClimate(store, placeId, tx);
  if (!last) return [];
  const found = await rowsOf<KeptClimate>(
    store,
    'climate',
    { placeId, at: { [Op.gte]: new Date(addMinutes(last.at, -minutes)) } },
    tx,
  );
  return found.sort((a, b) => (a.at < b.at ? -1 : 1));
}

const recent = new WeakMap<Store, { readonly count: number; readonly of: Map<Id, readonly KeptClimate[]> }>();

/** What `climateSince` finds, read again only when the air changed; for questions that come with every change of the shop. */
export async function recentClimate(store: Store, placeId: Id, minutes: number): Promise<readonly KeptClimate[]> {
  const count = await climateCount(store);
  if (recent.get(store)?.count !== count) recent.set(store, { count, of: new Map() });
  const { of } = recent.get(store)!;
  const found = of.get(placeId) ?? (await climateSince(store, placeId, minutes));
  of.set(placeId, found);
  return found;
}

/**
 * The air that the shop's shells dry in, where somebody reads it, its tanks and how it fires. They are worked out anew only when something
 * about them changed; inside a write that may have changed them, for that write alone.
 */
export async function shopAround(store: Store, tx?: Transaction): Promise<ShopAround> {
  const count = await climateCount(store, tx);
  const found = known.get(store);
  if (found?.count === count) return found.around;
  const [climate, tanks, profiles] = await Promise.all([
    shopClimate(store, tx),
    shopTanks(store, tx),
    rowsOf<KilnProfile>(store, 'profiles', {}, tx),
  ]);
  const around = {
    ...(climate ? { climate } : {}),
    ...(tanks ? { tanks } : {}),
    ...(profiles.length > 0 ? { profiles } : {}),
  };
  // What a write that may yet be undone has changed is not kept for others.
  if (!tx) known.set(store, { count, around });
  return around;
}

async function shopClimate(store: Store, tx?: Transaction): Promise<ShopClimate | undefined> {
  const places = await dryingPlaces(store, tx);
  const withAir = await Promise.all(
    places.map(async ({ id, name, airflow }) => ({
      ...{ id, name, airflow },
      air: dryingAir(await climateSince(store, id, BACK_MIN, tx)),
    })),
  );
  const looks = await rowsOf<DrynessReading>(store, 'drynessReadings', { voidReason: null }, tx);
  const recent = looks.sort((a, b) => (a.at < b.at ? 1 : -1)).slice(0, LOOKS);
  const { dryingReferenceK } = await settingsOf(store, tx);
  return withAir.some(({ air }) => air !== null)
    ? { places: withAir, referenceK: dryingReferenceK, learned: learnedDrying(recent) }
    : undefined;
}
