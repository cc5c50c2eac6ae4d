import { Router } from 'express';
import { answerWrite, check } from '../http/request.ts';
import type { Server } from '../http/request.ts';
import { may } from '../people/who.ts';
import * as schema from './keep.schema.ts';
import * as service from './keep.service.ts';

/** How the records are kept: copies and room. */
export function keepRoutes(server: Server): Router {
  const routes = Router();
  routes.get('/standing', async (_request, response) => {
    response.json(await service.standing(server));
  });
  routes.get('/backups', async (_request, response) => {
    response.json(await service.backups(server));
  });
  routes.post('/backups', may('keep records'), async (request, response) => {
    const body = check(schema.askBackup, request.body);
    await answerWrite(server, request, response, (ctx) => service.askBackup(ctx, body), { status: 201 });
  });
  routes.put('/settings/backups', may('keep records'), async (request, response) => {
    const body = check(schema.wishes, request.body);
    await answerWrite(server, request, response, (ctx) => service.saveWishes(ctx, body));
  });
  return routes;
}
