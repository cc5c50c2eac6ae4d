import { Router } from 'express';
import { answerWrite, check, idIn } from '../http/request.ts';
import type { Server } from '../http/request.ts';
import { may } from '../people/who.ts';
import { abandon } from '../write/abandon.schema.ts';
import { loadRecord } from './load-record.service.ts';
import { openLoads } from './load-read.service.ts';
import * as schema from './load.schema.ts';
import * as service from './load.service.ts';

export function loadRoutes(server: Server): Router {
  const routes = Router();
  routes.get('/loads', async (_request, response) => {
    response.json({ loads: await openLoads(server.store) });
  });
  routes.get('/loads/:id/record', async (request, response) => {
    response.json(await loadRecord(server, idIn(request)));
  });
  routes.post('/loads', may('plan load'), async (request, response) => {
    const body = check(schema.planLoad, request.body);
    await answerWrite(server, request, response, (ctx) => service.planLoad(ctx, body), { status: 201 });
  });
  routes.post('/loads/:id/record', may('record load'), async (request, response) => {
    const body = check(schema.recordLoad, request.body);
    await answerWrite(server, request, response, (ctx) => service.recordLoad(ctx, idIn(request), body));
  });
  routes.post('/loads/:id/abandon', may('abandon load'), async (request, response) => {
    const body = check(abandon, request.body);
    await answerWrite(server, request, response, (ctx) => service.abandonLoad(ctx, idIn(request), body));
  });
  return routes;
}
