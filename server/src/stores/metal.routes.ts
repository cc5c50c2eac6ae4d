import { Router } from 'express';
import type { KeptAnswers } from '../live/kept-answers.ts';
import { answerWrite, check } from '../http/request.ts';
import type { Server } from '../http/request.ts';
import { may } from '../people/who.ts';
import { metalPage } from './metal-page.service.ts';
import * as schema from './metal.schema.ts';
import * as service from './metal.service.ts';

/** Metal that came, lies there and goes; the pots it is melted in. */
export function metalRoutes(server: Server, pages: KeptAnswers): Router {
  const routes = Router();
  routes.get('/metal', (request, response) => pages.send(request, response, () => metalPage(server)));
  routes.post('/metal/lots', may('save lot'), async (request, response) => {
    const body = check(schema.lot, request.body);
    await answerWrite(server, request, response, (ctx) => service.saveLot(ctx, body));
  });
  routes.post('/metal/counts', may('count metal'), async (request, response) => {
    const body = check(schema.count, request.body);
    await answerWrite(server, request, response, (ctx) => service.countMetal(ctx, body));
  });
  routes.post('/metal/crucibles', may('save crucible'), async (request, response) => {
    const body = check(schema.crucible, request.body);
    await answerWrite(server, request, response, (ctx) => service.saveCrucible(ctx, body));
  });
  routes.post('/metal/looks', may('look at crucible'), async (request, response) => {
    const body = check(schema.look, request.body);
    await answerWrite(server, request, response, (ctx) => service.lookAtCrucible(ctx, body));
  });
  return routes;
}
