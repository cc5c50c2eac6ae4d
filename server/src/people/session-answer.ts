import type { SessionAnswer } from '@kalvet/core';
import type { Store } from '../write/store.ts';
import { isManaged } from './credentials.ts';
import type { Device } from './devices.ts';
import { asChoice, choicesAt } from './devices.ts';
import { people } from './person-of.ts';
import type { Who } from './sessions.ts';
import { settingsOf } from './settings.ts';

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
