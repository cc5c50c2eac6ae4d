import type { ChangePassword, SetPin } from '@kalvet/core';
import { invalid } from '../write/problem.ts';
import type { Store } from '../write/store.ts';
import type { From } from './audit.ts';
import { audit } from './audit.ts';
import { credentialOf, keepCredential } from './credentials.ts';
import { hashSecret, isSecret, weakPassword, weakPin } from './secrets.ts';
import type { Who } from './sessions.ts';
import { endAll } from './sessions.ts';
import { settingsOf } from './settings.ts';
import type { Opened } from './sign-in.service.ts';
import { begin } from './sign-in.service.ts';
import type { Try } from './tries.ts';
import { beginTry, forgive } from './tries.ts';

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
