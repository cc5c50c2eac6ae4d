import { Router } from 'express';
import type { Server } from '../http/request.ts';
import { answerWrite, check } from '../http/request.ts';
import { may, signedIn } from '../people/who.ts';
import { notFound } from '../write/problem.ts';
import { feedFile, feedsAnswer, renewFeed } from './feeds.service.ts';
import { saveVisit } from './visits.ts';
import * as schema from './feeds.schema.ts';

/** Calendars by their secret address: calendar programs cannot sign in. */
export function openFeedRoutes({ store, now }: Server): Router {
  const routes = Router();
  routes.get('/feed/:secret', async (request, response) => {
    const secret = /^([\w-]{43})\.ics$/.exec(request.params.secret)?.[1];
    if (secret === undefined) throw notFound('calendar');
    response.setHeader('Content-Type', 'text/calendar; charset=utf-8');
    response.setHeader('Cache-Control', 'private, no-cache');
    response.send(await feedFile(store, now(), secret));
  });
  return routes;
}

/** The calendars that somebody can have, and visits. */
export function feedRoutes(server: Server): Router {
  const routes = Router();
  routes.get('/feeds', async (_request, response) => {
    response.json(await feedsAnswer(server.store, signedIn(response).person, server.now()));
  });
  routes.post('/feeds', may('renew address'), async (request, response) => {
    const body = check(schema.subject, request.body);
    await answerWrite(server, request, response, (ctx) => renewFeed(ctx, body));
  });
  routes.post('/visits', may('save visit'), async (request, response) => {
    const body = check(schema.visit, request.body);
    await answerWrite(server, request, response, (ctx) => saveVisit(ctx, body));
  });
  return routes;
}
