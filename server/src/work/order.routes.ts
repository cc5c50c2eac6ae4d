import { Router } from 'express';
import type { KeptAnswers } from '../live/kept-answers.ts';
import { answerWrite, check } from '../http/request.ts';
import type { Server } from '../http/request.ts';
import { may } from '../people/who.ts';
import * as schema from './order.schema.ts';
import * as service from './order.service.ts';

export function orderRoutes(server: Server, pages: KeptAnswers): Router {
  const routes = Router();
  routes.get('/orders', (request, response) => pages.send(request, response, () => service.ordersAnswer(server)));
  routes.post('/clients', may('save client'), async (request, response) => {
    const body = check(schema.client, request.body);
    await answerWrite(server, request, response, (ctx) => service.saveClient(ctx, body));
  });
  routes.post('/orders', may('save order'), async (request, response) => {
    const body = check(schema.order, request.body);
    await answerWrite(server, request, response, (ctx) => service.saveOrder(ctx, body));
  });
  return routes;
}
