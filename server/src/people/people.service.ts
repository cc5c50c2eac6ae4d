import type { AddPerson, ChangePerson, Id, PeopleAnswer, Person, Rights } from '@kalvet/core';
import { METRIC, ROLE_NAMES } from '@kalvet/core';
import { Op } from 'sequelize';
import { rowsOf } from '../db/rows.ts';
import type { Context } from '../write/context.ts';
import { Problem, invalid, notFound } from '../write/problem.ts';
import type { Store } from '../write/store.ts';
import type { From } from './audit.ts';
import { audit } from './audit.ts';
import { people, personOf } from './person-of.ts';
import { hashSecret, oneTimePassword } from './secrets.ts';
import type { Credential } from './credentials.ts';
import { keepCredential } from './credentials.ts';
import type { Who } from './sessions.ts';
import { endAll } from './sessions.ts';
import { tabletLines } from './tablets.ts';

/** Everybody with what they may and how they sign in, and the rooms' tablets. */
export async function peoplePage(store: Store, now: string, openid: boolean): Promise<PeopleAnswer> {
  const everybody = await people(store);
  const credentials = new Map(
    (await rowsOf<Credential>(store, 'credentials', {})).map((credential) => [credential.personId, credential]),
  );
  const seen = new Map(
    (
      (await store.models.sessions.findAll({
        attributes: ['personId', [store.db.fn('MAX', store.db.col('lastSeenAt')), 'last']],
        group: ['personId'],
        raw: true,
      })) as unknown as { personId: Id; last: Date | string }[]
    ).map(({ personId, last }) => [personId, new Date(last).toISOString()]),
  );
  return {
    people: everybody.map((person) => {
      const credential = credentials.get(person.id);
      return {
        ...person,
        hasPassword: Boolean(credential?.passwordHash),
        hasPin: Boolean(credential?.pinHash),
        openid: credential?.openid ?? null,
        lastSeen: seen.get(person.id) ?? null,
      };
    }),
    tablets: await tabletLines(store, new Map(everybody.map(({ id, name }) => [id, name]))),
    openid,
    now,
  };
}

const rightsInWords = ({ roles, rooms, gates }: Rights): string =>
  [
    roles.map((role) => ROLE_NAMES[role]).join(', ') || 'no role',
    ...(rooms.length > 0 ? [`in ${rooms.join(', ')}`] : []),
    ...(gates.length > 0 ? [`answers for ${gates.join(', ')}`] : []),
  ].join('; ');

const TAKEN = { name: 'somebody of this name or short name is already on the list' };

/** Two people must not be mistaken for one another, at signing in least of all. */
async function judgeNames(ctx: Context, id: Id, name: string, shortName: string): Promise<void> {
  const same = await ctx.rows<Person>('people', {
    active: true,
    id: { [Op.ne]: id },
    [Op.or]: [{ name: [name, shortName] }, { shortName: [name, shortName] }],
  });
  if (same.length > 0) throw invalid(TAKEN);
}

/** Puts somebody on the list of people who work here. */
export async function addPerson(ctx: Context, given: AddPerson): Promise<{ id: Id }> {
  ctx.may('add person');
  await ctx.rows<Person>('people', {}, { lock: true });
  await judgeNames(ctx, given.id, given.name, given.shortName);
  await ctx.insert<Person>('people', [{ ...given, active: true, units: METRIC, version: 1 }]);
  ctx.concern('person', given.id);
  ctx.event = { verb: 'add person', text: `${given.name} works here` };
  await ctx.audit('rights', `${given.name}: ${rightsInWords(given)}`);
  return { id: given.id };
}

/**
 * Changes what somebody is called, is and may, or takes them off the list; what they did stays theirs. Their units everybody
 * changes for themselves. Nobody gives rights to themselves, and somebody must be left who manages the shop.
 */
export async function changePerson(ctx: Context, id: Id, { version, ...patch }: ChangePerson): Promise<{ id: Id }> {
  const own = ctx.actor?.id === id;
  const onlyUnits = Object.keys(patch).every((key) => key === 'units');
  if (!(own && onlyUnits)) ctx.may('change person');
  if (!own && patch.units) throw invalid({ units: 'are everybody’s own' });
  const everybody = await ctx.rows<Person>('people', {}, { lock: true });
  const person = await ctx.claim<Person>('people', id, version, 'person', patch);
  const { roles, rooms, gates } = { ...person, ...patch };
  const rights = rightsInWords({ roles, rooms, gates }) !== rightsInWords(person);
  if (own && (rights || patch.active === false))
    throw new Problem('may not', 'Nobody changes what they may themselves; ask another manager.', {
      rule: 'own rights',
    });
  const manages = (each: Person) => each.active && each.roles.includes('manager');
  const after = { ...person, ...(patch as Partial<Person>) };
  if (manages(person) && !manages(after) && !everybody.some((each) => each.id !== id && manages(each)))
    throw new Problem('may not', `${person.name} is the last manager; make somebody else one first.`, {
      rule: 'last manager',
    });
  if (patch.name !== undefined || patch.shortName !== undefined || patch.active === true)
    await judgeNames(ctx, id, after.name, after.shortName);
  await ctx.update('people', person, patch as Partial<Person>);
  if (patch.active === false) await endAll(ctx.store, id, undefined, ctx.tx);
  ctx.concern('person', id);
  ctx.event = { verb: 'change person', text: `${person.name}: changed` };
  if (rights) await ctx.audit('rights', `${person.name}: ${rightsInWords(person)} → ${rightsInWords(after)}`);
  if (patch.active !== undefined && patch.active !== person.active)
    await ctx.audit('rights', `${person.name} ${patch.active ? 'works here again' : 'works here no more'}`);
  return { id };
}

/** Gives somebody a password for one time, which they change when they sign in. It is told once, to the manager who asked. */
export async function resetPassword(store: Store, by: Who, id: Id, from: From): Promise<{ password: string }> {
  const person = await personOf(store, id);
  if (!person?.active) throw notFound('person');
  if (person.id === by.person.id) throw invalid({ id: 'your own password you change yourself' });
  const password = await giveOneTimePassword(store, person);
  await audit(store, {
    what: 'password',
    person: by.person,
    how: by.session.how,
    text: `gave ${person.name} a new password`,
    from,
  });
  return { password };
}

/** A new password for one time; whoever was signed in as this person is signed out. */
export async function giveOneTimePassword(store: Store, person: Person): Promise<string> {
  const password = oneTimePassword();
  const passwordHash = await hashSecret(password);
  await store.db.transaction(async (tx) => {
    await keepCredential(store, person.id, { passwordHash, mustChange: true }, tx);
    await endAll(store, person.id, undefined, tx);
  });
  return password;
}

/** Enters by which name the shop's own sign-in vouches for somebody; empty for none. */
export async function setOpenid(store: Store, by: Who, id: Id, openid: string, from: From): Promise<void> {
  const person = await personOf(store, id);
  if (!person) throw notFound('person');
  const taken = openid && (await rowsOf<Credential>(store, 'credentials', { openid, personId: { [Op.ne]: id } }));
  if (taken && taken.length > 0) throw invalid({ openid: 'is somebody else’s' });
  await keepCredential(store, id, { openid: openid || null });
  await audit(store, {
    what: 'rights',
    person: by.person,
    how: by.session.how,
    text: openid ? `${person.name} signs in by OpenID as ${openid}` : `${person.name} signs in by OpenID no more`,
    from,
  });
}
