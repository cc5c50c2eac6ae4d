import { Router } from 'express';
import { abandon } from '../write/abandon.schema.ts';
import type { KeptAnswers } from '../live/kept-answers.ts';
import { answerWrite, check, idIn } from '../http/request.ts';
import type { Server } from '../http/request.ts';
import { may } from '../people/who.ts';
import { notFound } from '../write/problem.ts';
import { openHeats } from './heat-read.service.ts';
import { heatBook } from './heat-book.service.ts';
import { heatRecord } from './heat-record.service.ts';
import { liveHeat } from './live-heat.service.ts';
import { pourDayPage } from './pour-day.service.ts';
import { pourPage } from './pour-page.service.ts';
import * as schema from './heat.schema.ts';
import * as service from './heat.service.ts';

export function heatRoutes(server: Server, pages: KeptAnswers): Router {
  const routes = Router();
  routes.get('/heats', async (_request, response) => {
    response.json({ heats: await openHeats(server.store) });
  });
  routes.get('/pour', (request, response) => pages.send(request, response, () => pourPage(server)));
  routes.get('/heats/book', (request, response) => {
    const { year } = check(schema.book, { year: Number(request.query['year'] ?? 0) || undefined });
    return pages.send(request, response, () => heatBook(server, year), String(year ?? ''));
  });
  routes.get('/heats/:id', async (request, response) => {
    const [heat] = await openHeats(server.store, [idIn(request)]);
    if (!heat) throw notFound('heat');
    response.json(heat);
  });
  routes.get('/heats/:id/live', async (request, response) => {
    response.json(await liveHeat(server, idIn(request)));
  });
  routes.get('/pour/day', (request, response) => {
    const { day } = check(schema.whichDay, request.query);
    return pages.send(request, response, () => pourDayPage(server, day), day ?? '');
  });
  routes.get('/heats/:id/record', async (request, response) => {
    response.json(await heatRecord(server, idIn(request)));
  });
  routes.post('/heats', may('plan heat'), async (request, response) => {
    const body = check(schema.planHeat, request.body);
    await answerWrite(server, request, response, (ctx) => service.planHeat(ctx, body), { status: 201 });
  });
  routes.put('/heats/:id', may('change heat'), async (request, response) => {
    const body = check(schema.changeHeat, request.body);
    await answerWrite(server, request, response, (ctx) => service.changeHeat(ctx, idIn(request), body));
  });
  routes.post('/heats/:id/crew', may('confirm crew'), async (request, response) => {
    const body = check(schema.confirmCrew, request.body);
    await answerWrite(server, request, response, (ctx) => service.confirmCrew(ctx, idIn(request), body));
  });
  routes.post('/heats/:id/pour', may('pour'), async (request, response) => {
    const body = check(schema.pourTree, request.body);
    await answerWrite(server, request, response, (ctx) => service.pourTree(ctx, idIn(request), body));
  });
  routes.post('/heats/:id/readings', may('read heat'), async (request, response) => {
    const body = check(schema.readHeat, request.body);
    await answerWrite(server, request, response, (ctx) => service.readHeat(ctx, idIn(request), body), { status: 201 });
  });
  routes.post('/heats/:id/light', may('light furnace'), async (request, response) => {
    const body = check(schema.lightHeat, request.body);
    await answerWrite(server, request, response, (ctx) => service.lightHeat(ctx, idIn(request), body));
  });
  routes.post('/heats/:id/out', may('shell out'), async (request, response) => {
    const body = check(schema.shellOut, request.body);
    await answerWrite(server, request, response, (ctx) => service.shellOut(ctx, idIn(request), body));
  });
  routes.post('/heats/:id/pit', may('set in pit'), async (request, response) => {
    const body = check(schema.setInPit, request.body);
    await answerWrite(server, request, response, (ctx) => service.setInPit(ctx, idIn(request), body));
  });
  routes.post('/heats/:id/finish', may('finish heat'), async (request, response) => {
    const body = check(schema.finishHeat, request.body);
    await answerWrite(server, request, response, (ctx) => service.finishHeat(ctx, idIn(request), body));
  });
  routes.post('/heats/:id/abandon', may('abandon heat'), async (request, response) => {
    const body = check(abandon, request.body);
    await answerWrite(server, request, response, (ctx) => service.abandonHeat(ctx, idIn(request), body));
  });
  return routes;
}
