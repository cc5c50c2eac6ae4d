import { Router } from 'express';
import { answerWrite, check, idIn } from '../write/request.ts';
import type { Server } from '../write/request.ts';
import * as items from './open-item.service.ts';

export function chasingRoutes(server: Server): Router {
  const routes = Router();
  routes.post('/open-items', async (request, response) => {
    const body = check(items.addOpenItemSchema, request.body);
    await answerWrite(server, request, response, (ctx) => items.addOpenItem(ctx, body), { status: 201 });
  });
  routes.post('/open-items/:id/close', async (request, response) => {
    const body = check(items.closeOpenItemSchema, request.body);
    await answerWrite(server, request, response, (ctx) => items.closeOpenItem(ctx, idIn(request), body));
  });
  return routes;
}
