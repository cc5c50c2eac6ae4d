import { Router } from 'express';
import { answerWrite, check, idIn } from '../http/request.ts';
import type { Server } from '../http/request.ts';
import { may } from '../people/who.ts';
import * as schema from './open-item.schema.ts';
import * as items from './open-item.service.ts';

export function chasingRoutes(server: Server): Router {
  const routes = Router();
  routes.post('/open-items', may('open item'), async (request, response) => {
    const body = check(schema.addOpenItem, request.body);
    await answerWrite(server, request, response, (ctx) => items.addOpenItem(ctx, body), { status: 201 });
  });
  routes.post('/open-items/:id/close', may('close item'), async (request, response) => {
    const body = check(schema.closeOpenItem, request.body);
    await answerWrite(server, request, response, (ctx) => items.closeOpenItem(ctx, idIn(request), body));
  });
  return routes;
}
