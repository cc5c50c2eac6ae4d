import { Router } from 'express';
import type { KeptAnswers } from '../live/kept-answers.ts';
import { answerWrite, check } from '../http/request.ts';
import type { Server } from '../http/request.ts';
import { may } from '../people/who.ts';
import * as schema from './quality.schema.ts';
import * as service from './quality.service.ts';

/** What the shop has learned of itself, and its taking over. */
export function qualityRoutes(server: Server, pages: KeptAnswers): Router {
  const routes = Router();
  routes.get('/quality', (request, response) => pages.send(request, response, () => service.qualityPage(server.store)));
  routes.post('/quality/take', may('change settings'), async (request, response) => {
    const body = check(schema.take, request.body);
    await answerWrite(server, request, response, (ctx) => service.takeFigure(ctx, body));
  });
  return routes;
}
