import type {
  ChangePassword,
  Choice,
  How,
  Id,
  Person,
  SessionAnswer,
  SetPin,
  SetUpShop,
  SignIn,
  SignInByPin,
} from '@kalvet/core';
import { METRIC } from '@kalvet/core';
import type { Transaction } from 'sequelize';
import { Op } from 'sequelize';
import { rowsOf } from '../shop/load.ts';
import { newId } from '../write/new-id.ts';
import { Problem, invalid } from '../write/problem.ts';
import type { Store } from '../write/store.ts';
import type { From } from './audit.ts';
import { audit } from './audit.ts';
import { people, personOf } from './person-of.ts';
import { hashSecret, isSecret, newToken, tokenHash, weakPassword, weakPin } from './secrets.ts';
import type { Session, Who } from './sessions.ts';
import { endAll, openSession } from './sessions.ts';
import { settingsOf } from './settings.ts';
import type { Try } from './tries.ts';
import { beginTry, forgive } from './tries.ts';

export interface Credential {
  readonly personId: Id;
  readonly passwordHash: string | null;
  readonly pinHash: string | null;
  readonly mustChange: boolean;
  readonly openid: string | null;
}

export interface Device {
  readonly id: Id;
  readonly kind: 'tablet' | 'browser';
  readonly name: string;
  readonly room: Person['rooms'][number] | null;
  readonly personId: Id;
  readonly pairedAt: string;
  readonly lastSeenAt: string | null;
}

/** What came of signing in: the secret for the cookie, and a browser that is known from now on. */
export interface Opened {
  readonly secret: string;
  readonly session: Session;
  readonly browser?: string;
}

const credentialOf = async (store: Store, personId: Id): Promise<Credential | undefined> =>
  (await rowsOf<Credential>(store, 'credentials', { personId }))[0];

export const keepCredential = async (
  store: Store,
  personId: Id,
  values: Partial<Credential>,
  transaction: Transaction | null = null,
): Promise<void> => {
  await store.models.credentials.bulkCreate([{ mustChange: false, ...values, personId }], {
    updateOnDuplicate: Object.keys(values) as never[],
    transaction,
  });
};

/** Whether somebody manages the shop who can prove it: from then on nobody else can set it up. */
export async function isManaged(store: Store): Promise<boolean> {
  const found = await rowsOf<Credential>(store, 'credentials', {
    [Op.or]: [{ passwordHash: { [Op.ne]: null } }, { openid: { [Op.ne]: null } }],
  });
  const known = new Set(found.map(({ personId }) => personId));
  return (await people(store)).some(({ id, active, roles }) => active && roles.includes('manager') && known.has(id));
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
async function choicesAt(store: Store, { room }: Device): Promise<Choice[]> {
  const withPin = await rowsOf<Credential>(store, 'credentials', { pinHash: { [Op.ne]: null } });
  const ids = new Set(withPin.map(({ personId }) => personId));
  return (await people(store))
    .filter(({ id, active, rooms }) => active && ids.has(id) && (!room || rooms.length === 0 || rooms.includes(room)))
    .map(asChoice);
}

const asChoice = ({ id, name, shortName, roles }: Person): Choice => ({ id, name, shortName, roles });

/** How a browser stands. Says nothing of the shop but its name to whoever has not signed in. */
export async function sessionAnswer(
  store: Store,
  who: Who | undefined,
  at: { readonly tablet: Device | undefined; readonly demo: boolean; readonly openid: string | null },
): Promise<SessionAnswer> {
  const { shopName } = await settingsOf(store);
  const rest = {
    tablet: at.tablet ? { name: at.tablet.name, room: at.tablet.room } : null,
    demo: at.demo,
    openid: at.openid,
    shopName,
  };
  if (who)
    return {
      ...rest,
      state: who.mustChange ? 'new password' : 'in',
      person: who.person,
      how: who.session.how,
      token: who.session.token,
      choices: [],
    };
  const choices = at.demo
    ? (await people(store)).filter(({ active }) => active).map(asChoice)
    : at.tablet
      ? await choicesAt(store, at.tablet)
      : [];
  const state = at.demo || (await isManaged(store)) ? 'out' : 'set up';
  return { ...rest, state, person: null, how: null, token: '', choices };
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
async function begin(
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

/** Chooses a new password; every other place where somebody is signed in ends. */
export async function changePassword(store: Store, who: Who, given: ChangePassword, from: From): Promise<Opened> {
  const { person, session } = who;
  const tries: Try[] = [{ kind: 'browser', of: `password ${person.id}` }];
  await beginTry(store, tries);
  const credential = await credentialOf(store, person.id);
  if (!(await isSecret(credential?.passwordHash, given.before))) throw invalid({ before: 'is not your password' });
  await forgive(store, tries);
  if (given.password === given.before) throw invalid({ password: 'is the one you have' });
  const wrong = weakPassword(given.password, [person.name, (await settingsOf(store)).shopName, 'Kalvet']);
  if (wrong) throw invalid({ password: wrong });
  const passwordHash = await hashSecret(given.password);
  return store.db.transaction(async (tx) => {
    await keepCredential(store, person.id, { passwordHash, mustChange: false }, tx);
    await endAll(store, person.id, undefined, tx);
    await audit(store, { what: 'password', person, how: session.how, text: 'chose a new password', from }, tx);
    return begin(store, person, 'password', from, { tx, known: true });
  });
}

/** Chooses a PIN for the rooms' tablets. Only who knows the password may. */
export async function setPin(store: Store, { person, session }: Who, given: SetPin, from: From): Promise<void> {
  const tries: Try[] = [{ kind: 'browser', of: `password ${person.id}` }];
  await beginTry(store, tries);
  const credential = await credentialOf(store, person.id);
  // In the demo nobody has a password; its people may still try the tablets.
  const proven = session.how === 'demo' || (await isSecret(credential?.passwordHash, given.password));
  if (!proven) throw invalid({ password: 'is not your password' });
  await forgive(store, tries);
  const wrong = weakPin(given.pin);
  if (wrong) throw invalid({ pin: wrong });
  await keepCredential(store, person.id, { pinHash: await hashSecret(given.pin) });
  await audit(store, { what: 'pin', person, how: session.how, text: 'chose a PIN', from });
}
