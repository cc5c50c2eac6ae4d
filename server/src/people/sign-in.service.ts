import type { How, Id, Person, SetUpShop, SignIn, SignInByPin } from '@kalvet/core';
import { METRIC } from '@kalvet/core';
import type { Transaction } from 'sequelize';
import { rowsOf } from '../db/rows.ts';
import { newId } from '../write/new-id.ts';
import { Problem, invalid } from '../write/problem.ts';
import type { Store } from '../write/store.ts';
import type { From } from './audit.ts';
import { audit } from './audit.ts';
import type { Credential } from './credentials.ts';
import { credentialOf, isManaged, keepCredential } from './credentials.ts';
import type { Device } from './devices.ts';
import { choicesAt, deviceOf } from './devices.ts';
import { people, personOf } from './person-of.ts';
import { hashSecret, isSecret, newToken, tokenHash, weakPassword } from './secrets.ts';
import type { Session } from './sessions.ts';
import { openSession } from './sessions.ts';
import { settingsOf } from './settings.ts';
import type { Try } from './tries.ts';
import { beginTry, forgive } from './tries.ts';

/** What came of signing in: the secret for the cookie, and a browser that is known from now on. */
export interface Opened {
  readonly secret: string;
  readonly session: Session;
  readonly browser?: string;
}

/** Begins the shop: the first person manages it. @throws Problem where somebody manages it already */
export async function setUpShop(store: Store, given: SetUpShop, from: From): Promise<Opened> {
  const { shopName } = await settingsOf(store);
  const wrong = weakPassword(given.password, [given.name, shopName, 'Kalvet']);
  if (wrong) throw invalid({ password: wrong });
  const passwordHash = await hashSecret(given.password);
  return store.db.transaction(async (tx) => {
    // Two browsers at once: the second waits here and finds the shop managed.
    await store.models.counters.findByPk('settings', { transaction: tx, lock: true, raw: true });
    if (await isManaged(store)) throw new Problem('may not', 'This shop is set up already. Sign in.');
    const known = (await people(store)).find(
      ({ active, name, shortName }) => active && (name === given.name || shortName === given.shortName),
    );
    // Somebody of this name was here before there was a sign-in: they go on as themselves.
    const person: Person = known ?? {
      id: newId(),
      name: given.name,
      shortName: given.shortName,
      roles: ['manager'],
      rooms: [],
      gates: [],
      active: true,
      units: METRIC,
      version: 1,
    };
    if (known)
      await store.models.people.update(
        { roles: [...new Set([...known.roles, 'manager'])], version: known.version + 1 },
        { where: { id: known.id }, transaction: tx },
      );
    else await store.models.people.create({ ...person }, { transaction: tx });
    await keepCredential(store, person.id, { passwordHash, mustChange: false }, tx);
    if (given.shopName)
      await store.models.settings.upsert({ name: 'shopName', value: given.shopName }, { transaction: tx });
    await audit(store, { what: 'sign in', person, how: 'password', text: 'set up the shop', from }, tx);
    return begin(store, person, 'password', from, { tx });
  });
}

/** Opens a session, and makes the browser known: next time its tries are counted by themselves. */
export async function begin(
  store: Store,
  person: Person,
  how: How,
  from: From,
  {
    tx = null,
    deviceId = null,
    known = false,
  }: { tx?: Transaction | null; deviceId?: Id | null; known?: boolean } = {},
): Promise<Opened> {
  const opened = await openSession(store, { personId: person.id, how, from, deviceId }, tx);
  if (known || how === 'pin' || how === 'demo') return opened;
  const browser = newToken();
  await store.models.devices.create(
    {
      id: newId(),
      kind: 'browser',
      name: from.agent.slice(0, 80),
      room: null,
      tokenHash: tokenHash(browser),
      personId: person.id,
      pairedAt: new Date().toISOString(),
      lastSeenAt: null,
    },
    { transaction: tx },
  );
  return { ...opened, browser };
}

const ofName = async (store: Store, name: string): Promise<Person | undefined> => {
  const wanted = name.trim().toLocaleLowerCase('en');
  return (await people(store)).find(
    ({ active, name: full, shortName }) =>
      active && (full.toLocaleLowerCase('en') === wanted || shortName.toLocaleLowerCase('en') === wanted),
  );
};

const WRONG = 'Name and password do not fit together.';

/**
 * Signs in by name and password. A wrong name takes as long as a wrong password and is answered in the same words.
 * @param browser the secret of a browser at which somebody signed in before
 */
export async function signIn(store: Store, given: SignIn, from: From, browser?: string): Promise<Opened> {
  const person = await ofName(store, given.name);
  const device = await deviceOf(store, browser, 'browser');
  const known = device !== undefined && device.personId === person?.id;
  const tries: Try[] = known
    ? [{ kind: 'browser', of: device.id }]
    : [
        { kind: 'pair', of: `${given.name.trim().toLowerCase()}\0${from.address}` },
        { kind: 'address', of: from.address },
      ];
  await beginTry(store, tries);
  const credential = person && (await credentialOf(store, person.id));
  if (!(await isSecret(credential?.passwordHash, given.password)) || !person) {
    await audit(store, {
      what: 'failed',
      person: null,
      name: given.name,
      how: 'password',
      text: 'name or password wrong',
      from,
    });
    throw new Problem('sign in', WRONG);
  }
  await forgive(store, tries);
  await audit(store, { what: 'sign in', person, how: 'password', text: 'signed in', from });
  return begin(store, person, 'password', from, { known });
}

/** Signs in at a paired tablet by PIN. */
export async function signInByPin(
  store: Store,
  given: SignInByPin,
  from: From,
  tablet: Device | undefined,
): Promise<Opened> {
  if (!tablet) throw new Problem('may not', 'A PIN is enough only at a tablet that was paired. Sign in by password.');
  const tries: Try[] = [{ kind: 'pin', of: `${tablet.id}\0${given.personId}` }];
  await beginTry(store, tries);
  const person = (await choicesAt(store, tablet)).find(({ id }) => id === given.personId);
  const credential = person && (await credentialOf(store, person.id));
  if (!(await isSecret(credential?.pinHash, given.pin)) || !person) {
    await audit(store, {
      what: 'failed',
      person: person ?? null,
      how: 'pin',
      text: `wrong PIN at ${tablet.name}`,
      from,
    });
    throw new Problem('sign in', 'That is not the PIN.');
  }
  await forgive(store, tries);
  await store.models.devices.update({ lastSeenAt: new Date() }, { where: { id: tablet.id } });
  await audit(store, { what: 'sign in', person, how: 'pin', text: `at ${tablet.name}`, from });
  return begin(store, (await personOf(store, person.id))!, 'pin', from, { deviceId: tablet.id });
}

/** In the demo everybody may be anybody: one tap, no proof, and every record says so. */
export async function signInToDemo(store: Store, personId: Id, from: From): Promise<Opened> {
  const person = await personOf(store, personId);
  if (!person?.active) throw new Problem('not found', 'There is no such person.');
  await audit(store, { what: 'sign in', person, how: 'demo', text: 'chosen in the demo', from });
  return begin(store, person, 'demo', from);
}

/** Signs in whoever the shop's own sign-in vouches for by one of these names. */
export async function signInByOpenid(store: Store, names: readonly string[], from: From): Promise<Opened> {
  const [found] = await rowsOf<Credential>(store, 'credentials', { openid: names.filter(Boolean) });
  const person = found && (await personOf(store, found.personId));
  if (!person?.active) {
    await audit(store, {
      what: 'failed',
      person: null,
      name: names[0] ?? '',
      how: 'openid',
      text: 'nobody here has this OpenID',
      from,
    });
    throw new Problem(
      'may not',
      `Nobody here is entered with the OpenID ${names[0] ?? ''}. A manager enters it on the People page.`,
    );
  }
  await audit(store, { what: 'sign in', person, how: 'openid', text: `signed in as ${found!.openid}`, from });
  return begin(store, person, 'openid', from);
}
