import { Router } from 'express';
import { answerWrite, check, idIn } from '../http/request.ts';
import type { Server } from '../http/request.ts';
import type { KeptAnswers } from '../live/kept-answers.ts';
import { may } from '../people/who.ts';
import { abandon } from '../write/abandon.schema.ts';
import { loadRecord } from './load-record.service.ts';
import { openLoads } from './load-read.service.ts';
import * as kiln from './kiln.service.ts';
import { kilnPage } from './kiln-page.service.ts';
import * as schema from './load.schema.ts';
import * as service from './load.service.ts';

export function loadRoutes(server: Server, pages: KeptAnswers): Router {
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
  routes.get('/kiln', (request, response) => pages.send(request, response, () => kilnPage(server)));
  routes.post('/kiln/profiles', may('save profile'), async (request, response) => {
    const body = check(schema.profile, request.body);
    await answerWrite(server, request, response, (ctx) => kiln.saveProfile(ctx, body));
  });
  routes.post('/loads/:id/light', may('light load'), async (request, response) => {
    const body = check(schema.lightLoad, request.body);
    await answerWrite(server, request, response, (ctx) => kiln.lightLoad(ctx, idIn(request), body));
  });
  routes.post('/loads/:id/readings', may('read kiln'), async (request, response) => {
    const body = check(schema.readKiln, request.body);
    await answerWrite(server, request, response, (ctx) => kiln.readKiln(ctx, idIn(request), body));
  });
  routes.post('/loads/:id/file', may('import kiln'), async (request, response) => {
    const body = check(schema.importKiln, request.body);
    await answerWrite(server, request, response, (ctx) => kiln.importKiln(ctx, idIn(request), body));
  });
  routes.post('/trees/:id/footprint', may('measure tree'), async (request, response) => {
    const body = check(schema.measure, request.body);
    await answerWrite(server, request, response, (ctx) => kiln.measureTree(ctx, idIn(request), body));
  });
  return routes;
}
