import { parse, serialize } from 'cookie';
import type { Request, Response } from 'express';

/** The session; a browser that somebody signed in at before; a paired tablet. */
export type CookieName = 'kalvet_session' | 'kalvet_browser' | 'kalvet_tablet';

const YEAR_S = 365 * 86_400;

export const cookieOf = (request: Request, name: CookieName): string | undefined => {
  const value = parse(request.header('Cookie') ?? '')[name];
  return value && value.length <= 100 ? value : undefined;
};

/** No script reads it, no other site's page sends it, and where the way is encrypted it goes no other way. */
export function setCookie(request: Request, response: Response, name: CookieName, value: string): void {
  response.append(
    'Set-Cookie',
    serialize(name, value, {
      httpOnly: true,
      sameSite: 'strict',
      path: '/',
      secure: request.secure,
      // The session ends with its own times on the server; a browser that is closed in between may go on.
      maxAge: name === 'kalvet_session' ? 7 * 86_400 : YEAR_S,
    }),
  );
}

export const clearCookie = (request: Request, response: Response, name: CookieName): void => {
  response.append(
    'Set-Cookie',
    serialize(name, '', { httpOnly: true, sameSite: 'strict', path: '/', secure: request.secure, maxAge: 0 }),
  );
};
