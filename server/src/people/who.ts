import type { Request, RequestHandler, Response } from 'express';
import type { Right, Room } from '@kalvet/core';
import { MAY_DO, mayDo, whoMay } from '@kalvet/core';
import { Problem } from '../write/problem.ts';
import type { Store } from '../write/store.ts';
import type { From } from './audit.ts';
import { cookieOf } from './cookies.ts';
import { same } from './secrets.ts';
import type { Who } from './sessions.ts';
import { whoHas } from './sessions.ts';

/** Carries a session's token with every write: a page of another site cannot read it, and so cannot write. */
export const TOKEN_HEADER = 'X-Kalvet-Token';

/** Said by a page whose person has touched it of late; pages read by themselves too, on a tablet that lies about. */
export const ATTENDED_HEADER = 'X-Kalvet-Attended';
const isAttended = (request: Request): boolean =>
  request.header(ATTENDED_HEADER) === '1' || (request.method !== 'GET' && request.method !== 'HEAD');

interface Locals {
  who?: Who | undefined;
}

/** Finds out who asks, once a request; everything else asks here. */
export const identify =
  (store: Store): RequestHandler =>
  async (request, response, next) => {
    const secret = cookieOf(request, 'kalvet_session');
    (response.locals as Locals).who =
      secret === undefined ? undefined : await whoHas(store, secret, isAttended(request));
    next();
  };

/** Who asks, where anybody is known. */
export const whoIn = (response: Response): Who | undefined => (response.locals as Locals).who;

/** Who asks. @throws Problem where nobody is signed in, or a new password must be chosen first */
export function signedIn(response: Response): Who {
  const who = whoIn(response);
  if (!who) throw new Problem('sign in', 'Sign in first. What you typed is kept.');
  if (who.mustChange) throw new Problem('may not', 'Choose a new password first.');
  return who;
}

/** From where a request comes, for the audit. */
export const fromOf = (request: Request): From => ({
  address: request.ip ?? '',
  agent: agentOf(request.header('User-Agent') ?? ''),
});

/** `Chromium on Linux`: enough to know one's own places again. */
function agentOf(text: string): string {
  const browser = /(Edg|OPR|Firefox|Chrome|Safari)\//.exec(text)?.[1];
  const system = /(Android|iPhone|iPad|Windows|Mac OS X|Linux)/.exec(text)?.[1];
  const named = { Edg: 'Edge', OPR: 'Opera', Chrome: 'Chromium' }[browser ?? ''] ?? browser;
  return named ? `${named}${system ? ` on ${system}` : ''}` : text.slice(0, 60);
}

/** @throws Problem where a write does not carry its session's token */
export function withToken(request: Request, who: Who): void {
  if (!same(request.header(TOKEN_HEADER) ?? '', who.session.token))
    throw new Problem('foreign', 'This page is older than your signing in. Load it again; what you typed is kept.');
}

/** Says that somebody may not, and who may. */
export function mayNot(name: string, right: Right, room?: Room | null): Problem {
  const where = room ? ` in this room` : '';
  return new Problem('may not', `${name} may not do that${where}; ${whoMay(MAY_DO[right])} may.`, { rule: 'rights' });
}

/** A handler that lets only those through who may do something, before anything of the request is looked at. */
export interface Guard extends RequestHandler {
  readonly right: Right | 'anybody';
}

/** Guards a write: signed in, with its token, and by right. What depends on the record is asked again with it. */
export function may(right: Right | 'anybody'): Guard {
  const guard: RequestHandler = (request, response, next) => {
    const who = signedIn(response);
    withToken(request, who);
    if (right !== 'anybody' && !mayDo(who.person, right)) throw mayNot(who.person.name, right);
    next();
  };
  return Object.assign(guard, { right });
}
