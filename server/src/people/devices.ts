import type { Choice, Id, Person } from '@kalvet/core';
import { Op } from 'sequelize';
import { rowsOf } from '../db/rows.ts';
import type { Store } from '../write/store.ts';
import type { Credential } from './credentials.ts';
import { people } from './person-of.ts';
import { tokenHash } from './secrets.ts';

/** A room's tablet, or a browser at which somebody signed in before. */
export interface Device {
  readonly id: Id;
  readonly kind: 'tablet' | 'browser';
  readonly name: string;
  readonly room: Person['rooms'][number] | null;
  readonly personId: Id;
  readonly pairedAt: string;
  readonly lastSeenAt: string | null;
}

/** The device of a cookie's secret, and that it was seen. */
export async function deviceOf(
  store: Store,
  secret: string | undefined,
  kind: Device['kind'],
): Promise<Device | undefined> {
  if (!secret) return undefined;
  const [found] = await rowsOf<Device>(store, 'devices', { tokenHash: tokenHash(secret), kind });
  return found;
}

/** People who may be chosen at a room's tablet: they have a PIN, and work in its room. */
export async function choicesAt(store: Store, { room }: Device): Promise<Choice[]> {
  const withPin = await rowsOf<Credential>(store, 'credentials', { pinHash: { [Op.ne]: null } });
  const ids = new Set(withPin.map(({ personId }) => personId));
  return (await people(store))
    .filter(({ id, active, rooms }) => active && ids.has(id) && (!room || rooms.length === 0 || rooms.includes(room)))
    .map(asChoice);
}

export const asChoice = ({ id, name, shortName, roles }: Person): Choice => ({ id, name, shortName, roles });
