import type { RequestHandler, Response } from 'express';
import type { PageRead, Sight } from '@kalvet/core';
import { MAY_READ, PAGES_READ, mayRead, sightsOf, whoMay } from '@kalvet/core';
import { Problem } from '../write/problem.ts';
import { signedIn, whoIn } from './who.ts';

const PAGES: ReadonlySet<string> = new Set(PAGES_READ);

/** What is read at an address: the first word of its path. */
export const pageOf = (path: string): PageRead | undefined => {
  const [, first = ''] = path.split('/');
  const name = first.replace(/\.\w+$/, '');
  return PAGES.has(name) ? (name as PageRead) : undefined;
};

/** The one guard of every read: whoever has not signed in sees nothing, and everybody only what they may. */
export const guardReads: RequestHandler = (request, response, next) => {
  if (request.method !== 'GET' && request.method !== 'HEAD') return next();
  const { person } = signedIn(response);
  const page = pageOf(request.path);
  if (page && !mayRead(person, page))
    throw new Problem('may not', `${person.name} may not see that; ${whoMay(MAY_READ[page])} may.`, { rule: 'rights' });
  next();
};

/** What the asker of a read sees beside what all see. */
export const sightsIn = (response: Response): Sight[] => sightsOf(whoIn(response)?.person);
