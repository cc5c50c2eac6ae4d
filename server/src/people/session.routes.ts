import { Router } from 'express';
import { stringify } from 'csv-stringify/sync';
import type { Request, Response } from 'express';
import type { SessionsAnswer } from '@kalvet/core';
import { HOW_WORDS } from '@kalvet/core';
import { check } from '../http/request.ts';
import type { Server } from '../http/request.ts';
import { rowsOf } from '../db/rows.ts';
import { Problem, notFound } from '../write/problem.ts';
import { audit, auditLines, auditRows } from './audit.ts';
import { clearCookie, cookieOf, setCookie } from './cookies.ts';
import type { Openid } from './openid.ts';
import * as schema from './session.schema.ts';
import type { Credential } from './credentials.ts';
import { deviceOf } from './devices.ts';
import * as own from './own-secrets.service.ts';
import { sessionAnswer } from './session-answer.ts';
import type { Opened } from './sign-in.service.ts';
import * as service from './sign-in.service.ts';
import { endAll, endSession, sessionsOf } from './sessions.ts';
import * as tablets from './tablets.ts';
import { fromOf, may, signedIn, whoIn, withToken } from './who.ts';

export interface SignInWays {
  /** Somebody may be anybody: only in the demo, and only from this very machine. */
  readonly demo: (request: Request) => boolean;
  readonly openid: Openid | undefined;
}

/** Signing in and what belongs to it. These are the only addresses that answer somebody who has not signed in. */
export function sessionRoutes({ store }: Server, { demo, openid }: SignInWays): Router {
  const routes = Router();
  const here = async (request: Request, response: Response) =>
    sessionAnswer(store, whoIn(response), {
      tablet: await deviceOf(store, cookieOf(request, 'kalvet_tablet'), 'tablet'),
      demo: demo(request),
      openid: openid?.name ?? null,
    });
  /** A new session at every signing in: one that was put into a browser before is worth nothing. */
  const begin = async (request: Request, response: Response, opened: Opened) => {
    const before = whoIn(response);
    if (before) await endSession(store, before.session.id);
    setCookie(request, response, 'kalvet_session', opened.secret);
    if (opened.browser) setCookie(request, response, 'kalvet_browser', opened.browser);
  };

  routes.get('/session', async (request, response) => {
    response.setHeader('Cache-Control', 'no-store');
    response.json(await here(request, response));
  });
  routes.post('/set-up', async (request, response) => {
    const body = check(schema.setUp, request.body);
    await begin(request, response, await service.setUpShop(store, body, fromOf(request)));
    response.status(201).json({});
  });
  routes.post('/session', async (request, response) => {
    const body = check(schema.signIn, request.body);
    const browser = cookieOf(request, 'kalvet_browser');
    await begin(request, response, await service.signIn(store, body, fromOf(request), browser));
    response.json({});
  });
  routes.post('/session/pin', async (request, response) => {
    const body = check(schema.signInByPin, request.body);
    const tablet = await deviceOf(store, cookieOf(request, 'kalvet_tablet'), 'tablet');
    await begin(request, response, await service.signInByPin(store, body, fromOf(request), tablet));
    response.json({});
  });
  routes.post('/session/demo', async (request, response) => {
    const { personId } = check(schema.choose, request.body);
    if (!demo(request))
      throw new Problem('may not', 'Only the demo is entered without a proof, and only on its own machine.');
    await begin(request, response, await service.signInToDemo(store, personId, fromOf(request)));
    response.json({});
  });
  routes.get('/session/openid', async (request, response) => {
    if (!openid) throw notFound('address');
    response.redirect(await openid.begin(request, response));
  });
  routes.get('/session/openid/back', async (request, response) => {
    if (!openid) throw notFound('address');
    const names = await openid.end(request, response);
    await begin(request, response, await service.signInByOpenid(store, names, fromOf(request)));
    response.redirect('/');
  });
  routes.post('/session/end', async (request, response) => {
    check(schema.nothing, request.body);
    const who = whoIn(response);
    if (who) {
      withToken(request, who);
      await endSession(store, who.session.id);
      const { person, session } = who;
      await audit(store, { what: 'sign out', person, how: session.how, text: 'signed out', from: fromOf(request) });
    }
    clearCookie(request, response, 'kalvet_session');
    response.json({});
  });
  routes.put('/session/password', async (request, response) => {
    const who = whoIn(response);
    if (!who) throw new Problem('sign in', 'Sign in first.');
    withToken(request, who);
    const body = check(schema.changePassword, request.body);
    await begin(request, response, await own.changePassword(store, who, body, fromOf(request)));
    response.json({});
  });
  return routes;
}

/** What somebody who is signed in does about their own signing in, and the audit for those who may see it. */
export function ownSessionRoutes(server: Server): Router {
  const { store } = server;
  const routes = Router();
  routes.get('/sessions', async (_request, response) => {
    const who = signedIn(response);
    const [credential] = await rowsOf<Credential>(store, 'credentials', { personId: who.person.id });
    const answer: SessionsAnswer = {
      sessions: await sessionsOf(store, who),
      hasPassword: Boolean(credential?.passwordHash),
      hasPin: Boolean(credential?.pinHash),
    };
    response.json(answer);
  });
  routes.post('/sessions/:id/end', may('anybody'), async (request, response) => {
    check(schema.nothing, request.body);
    const who = signedIn(response);
    const found = (await sessionsOf(store, who)).find(({ id }) => id === request.params['id']);
    if (!found) throw notFound('session');
    await endSession(store, found.id);
    response.json({});
  });
  routes.post('/sessions/end', may('anybody'), async (request, response) => {
    check(schema.nothing, request.body);
    const { person, session } = signedIn(response);
    await endAll(store, person.id, session.id);
    const text = 'signed out everywhere else';
    await audit(store, { what: 'sign out', person, how: session.how, text, from: fromOf(request) });
    response.json({});
  });
  routes.put('/session/pin', may('anybody'), async (request, response) => {
    const body = check(schema.setPin, request.body);
    await own.setPin(store, signedIn(response), body, fromOf(request));
    response.json({});
  });
  routes.post('/tablets', may('pair tablet'), async (request, response) => {
    const body = check(schema.pair, request.body);
    const who = signedIn(response);
    const secret = await tablets.pair(store, who, body, fromOf(request));
    // From now on it is the room's: whoever paired it is signed out of it.
    setCookie(request, response, 'kalvet_tablet', secret);
    clearCookie(request, response, 'kalvet_session');
    await endSession(store, who.session.id);
    response.status(201).json({});
  });
  routes.post('/tablets/:id/unpair', may('pair tablet'), async (request, response) => {
    check(schema.nothing, request.body);
    await tablets.unpair(store, signedIn(response), String(request.params['id']), fromOf(request));
    response.json({});
  });
  routes.get('/audit', async (request, response) => {
    response.json(await auditLines(store, check(schema.auditAsked, request.query), server.now()));
  });
  routes.get('/audit.csv', async (request, response) => {
    const { person, session } = signedIn(response);
    const rows = await auditRows(store, check(schema.auditAsked, request.query));
    const from = fromOf(request);
    await audit(store, { what: 'export', person, how: session.how, text: `audit, ${rows.length} lines`, from });
    response.setHeader('Content-Type', 'text/csv; charset=utf-8');
    response.setHeader('Content-Disposition', 'attachment; filename="kalvet-audit.csv"');
    response.send(
      stringify(
        rows.map(({ at, what, name, how, text, address, agent }) => ({
          at,
          what,
          who: name,
          'how sure': how ? HOW_WORDS[how] : '',
          text,
          address,
          browser: agent,
        })),
        // A cell that begins like a formula is never one.
        { header: true, bom: true, escape_formulas: true },
      ),
    );
  });
  return routes;
}
