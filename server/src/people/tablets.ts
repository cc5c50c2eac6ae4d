import type { Id, PairTablet, TabletLine } from '@kalvet/core';
import { rowsOf } from '../db/rows.ts';
import { newId } from '../write/new-id.ts';
import { notFound } from '../write/problem.ts';
import type { Store } from '../write/store.ts';
import type { From } from './audit.ts';
import { audit } from './audit.ts';
import { newToken, tokenHash } from './secrets.ts';
import type { Device } from './devices.ts';
import type { Who } from './sessions.ts';

/** Makes a browser a room's tablet, once. @returns the secret that stays in its cookie */
export async function pair(
  store: Store,
  { person, session }: Who,
  { name, room }: PairTablet,
  from: From,
): Promise<string> {
  const secret = newToken();
  await store.models.devices.create({
    id: newId(),
    kind: 'tablet',
    name,
    room,
    tokenHash: tokenHash(secret),
    personId: person.id,
    pairedAt: new Date().toISOString(),
    lastSeenAt: null,
  });
  await audit(store, { what: 'tablet', person, how: session.how, text: `paired ${name}`, from });
  return secret;
}

/** Takes a tablet back: its cookie is worth nothing from now on, and whoever is signed in at it is signed out. */
export async function unpair(store: Store, { person, session }: Who, id: Id, from: From): Promise<void> {
  const [found] = await rowsOf<Device>(store, 'devices', { id, kind: 'tablet' });
  if (!found) throw notFound('tablet');
  await store.db.transaction(async (transaction) => {
    await store.models.sessions.destroy({ where: { deviceId: id }, transaction });
    await store.models.devices.destroy({ where: { id }, transaction });
    await audit(
      store,
      { what: 'tablet', person, how: session.how, text: `took back ${found.name}`, from },
      transaction,
    );
  });
}

/** The tablets that are paired, by name. */
export async function tabletLines(store: Store, names: ReadonlyMap<Id, string>): Promise<TabletLine[]> {
  const rows = await rowsOf<Device>(store, 'devices', { kind: 'tablet' });
  return rows
    .map(({ id, name, room, pairedAt, personId, lastSeenAt }) => ({
      id,
      name,
      room,
      pairedAt,
      pairedBy: names.get(personId) ?? '',
      lastSeen: lastSeenAt,
    }))
    .sort((a, b) => a.name.localeCompare(b.name));
}
