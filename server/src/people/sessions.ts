import type { How, Id, Person, SessionLine } from '@kalvet/core';
import type { Transaction } from 'sequelize';
import { Op } from 'sequelize';
import type { Row } from '../db/tables.ts';
import { fromRow } from '../db/tables.ts';
import type { Store } from '../write/store.ts';
import type { From } from './audit.ts';
import { newToken, tokenHash } from './secrets.ts';

/** A session ends when nobody uses it for so long, and in any case after a while. A tablet's is short: it lies about. */
const MINUTE_MS = 60_000;
const IDLE_MS: Readonly<Record<string, number>> = { pin: 15 * MINUTE_MS };
const USUAL_IDLE_MS = 12 * 60 * MINUTE_MS;
const ABSOLUTE_MS: Readonly<Record<string, number>> = { pin: 12 * 60 * MINUTE_MS };
const USUAL_ABSOLUTE_MS = 7 * 24 * 60 * MINUTE_MS;
/** That somebody is here is written down once a minute. */
const TOUCH_MS = MINUTE_MS;

/** A session as it is kept. */
export interface Session {
  readonly id: string;
  readonly personId: Id;
  readonly how: How;
  /** Goes with every write, so that another site's page cannot write in somebody's name. */
  readonly token: string;
  readonly deviceId: Id | null;
  readonly createdAt: string;
  readonly lastSeenAt: string;
  readonly address: string;
  readonly agent: string;
}

/** Somebody who is signed in, and how. */
export interface Who {
  readonly person: Person;
  readonly session: Session;
  /** Until a new password is chosen nothing else may be done. */
  readonly mustChange: boolean;
}

/** Begins a session. @returns the secret for the cookie, and the session */
export async function openSession(
  store: Store,
  { personId, how, from, deviceId = null }: { personId: Id; how: How; from: From; deviceId?: Id | null },
  tx: Transaction | null = null,
): Promise<{ secret: string; session: Session }> {
  const secret = newToken();
  const now = new Date().toISOString();
  const session: Session = {
    id: tokenHash(secret),
    personId,
    how,
    token: newToken(),
    deviceId,
    createdAt: now,
    lastSeenAt: now,
    address: from.address.slice(0, 60),
    agent: from.agent.slice(0, 120),
  };
  await store.models.sessions.create({ ...session }, { transaction: tx });
  return { secret, session };
}

const over = ({ how, createdAt, lastSeenAt }: Session, now: number): boolean =>
  now - Date.parse(lastSeenAt) > (IDLE_MS[how] ?? USUAL_IDLE_MS) ||
  now - Date.parse(createdAt) > (ABSOLUTE_MS[how] ?? USUAL_ABSOLUTE_MS);

const under = (found: Record<string, unknown>, name: string): Row =>
  Object.fromEntries(
    Object.entries(found).flatMap(([key, value]) =>
      key.startsWith(`${name}.`) ? [[key.slice(name.length + 1), value]] : [],
    ),
  );

/**
 * Who a cookie's secret is; undefined where its session has ended or its person works here no more.
 * @param attended somebody is there: what a page reads by itself keeps no session alive
 */
export async function whoHas(store: Store, secret: string, attended = true): Promise<Who | undefined> {
  const id = tokenHash(secret);
  const found = (await store.models.sessions.findByPk(id, {
    raw: true,
    include: [{ association: 'person', include: [{ association: 'credentials', attributes: ['mustChange'] }] }],
  })) as unknown as Row | null;
  if (!found) return undefined;
  const session = fromRow<Session>('sessions', found);
  const person = fromRow<Person>('people', under(found, 'person'));
  const now = Date.now();
  if (!person.active || over(session, now)) {
    await store.models.sessions.destroy({ where: { id } });
    return undefined;
  }
  if (attended && now - Date.parse(session.lastSeenAt) > TOUCH_MS)
    await store.models.sessions.update({ lastSeenAt: new Date(now) }, { where: { id } });
  const mustChange = Number(found['person.credentials.mustChange'] ?? 0) === 1;
  return { person, session, mustChange: mustChange && session.how === 'password' };
}

export const endSession = (store: Store, id: string): Promise<number> =>
  store.models.sessions.destroy({ where: { id } });

/** Ends every session of somebody, but for one that may stay. */
export const endAll = (store: Store, personId: Id, but?: string, tx: Transaction | null = null): Promise<number> =>
  store.models.sessions.destroy({
    where: { personId, ...(but ? { id: { [Op.ne]: but } } : {}) } as never,
    transaction: tx,
  });

/** Where somebody is signed in, the newest first. What names a session to its owner is the end of its hash, not its secret. */
export async function sessionsOf(store: Store, { person, session: own }: Who): Promise<SessionLine[]> {
  const rows = (await store.models.sessions.findAll({
    raw: true,
    where: { personId: person.id },
    include: [{ association: 'device', attributes: ['name'] }],
    order: [['lastSeenAt', 'DESC']],
  })) as unknown as Row[];
  const now = Date.now();
  return rows
    .map((row) => ({
      session: fromRow<Session>('sessions', row),
      tablet: (row['device.name'] as string | null) ?? null,
    }))
    .filter(({ session }) => !over(session, now))
    .map(({ session, tablet }) => ({
      id: session.id,
      how: session.how,
      since: session.createdAt,
      lastSeen: session.lastSeenAt,
      agent: session.agent,
      address: session.address,
      tablet,
      here: session.id === own.id,
    }));
}

/** Lets sessions go that have ended by themselves. */
export const dropOldSessions = (store: Store): Promise<number> =>
  store.models.sessions.destroy({
    where: {
      [Op.or]: [
        { lastSeenAt: { [Op.lt]: new Date(Date.now() - USUAL_IDLE_MS) } },
        { createdAt: { [Op.lt]: new Date(Date.now() - USUAL_ABSOLUTE_MS) } },
      ],
    },
  });
