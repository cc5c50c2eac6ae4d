import { Router } from 'express';
import type { KeptAnswers } from '../live/kept-answers.ts';
import { answerWrite, check, idIn, writeRequest } from '../http/request.ts';
import type { Server } from '../http/request.ts';
import { sightsIn } from '../people/rights.ts';
import { may } from '../people/who.ts';
import * as change from './change-work.service.ts';
import { floor, rail } from './floor.service.ts';
import { pieceAnswer } from './piece-page.service.ts';
import * as pieceSchema from './piece.schema.ts';
import * as pieceService from './piece.service.ts';
import { setUpWork as setUpSchema } from '../shop/set-up.schema.ts';
import * as schema from './work.schema.ts';
import { workAnswer } from './work-page.service.ts';
import { MANY_CASTS, castsOf } from './set-up-job.ts';
import { removeWork, setUpAnew, setUpWork } from './work.service.ts';

export function workRoutes(server: Server, pages: KeptAnswers): Router {
  const routes = Router();
  routes.get('/floor', (request, response) => pages.send(request, response, () => floor(server, sightsIn(response))));
  routes.get('/rail', (request, response) => pages.send(request, response, () => rail(server)));
  routes.post('/works', may('set up work'), async (request, response) => {
    const body = check(setUpSchema, request.body);
    if (server.setUpApart && castsOf(body) > MANY_CASTS) {
      const job = { request: writeRequest(server, request, response), body, status: 201 };
      const done = await server.setUpApart(job);
      response.status(done.status).json(done.answer);
    } else await answerWrite(server, request, response, (ctx) => setUpWork(ctx, body), { status: 201 });
  });
  routes.get('/works/:id', async (request, response) => {
    response.json(await workAnswer(server, idIn(request)));
  });
  routes.post('/works/:id/consequences', may('change work'), async (request, response) => {
    const asked = check(schema.changeWork, request.body);
    response.json(await change.consequences(server.store, { workId: idIn(request), change: asked }));
  });
  routes.put('/works/:id', may('change work'), async (request, response) => {
    const body = check(schema.changeWork, request.body);
    await answerWrite(server, request, response, (ctx) => change.changeWork(ctx, idIn(request), body));
  });
  routes.put('/works/:id/set-up', may('change work'), async (request, response) => {
    const body = check(schema.setUpAnew, request.body);
    await answerWrite(server, request, response, (ctx) => setUpAnew(ctx, idIn(request), body));
  });
  routes.post('/works/:id/remove', may('remove work'), async (request, response) => {
    const { version } = check(schema.removeWork, request.body);
    await answerWrite(server, request, response, (ctx) => removeWork(ctx, idIn(request), version));
  });
  routes.post('/works/:id/moulds', may('change work'), async (request, response) => {
    const body = check(schema.addMould, request.body);
    await answerWrite(server, request, response, (ctx) => change.addMould(ctx, idIn(request), body), { status: 201 });
  });
  routes.post('/sections/:id/consequences', may('change work'), async (request, response) => {
    const asked = check(schema.changeSection, request.body);
    response.json(await change.consequences(server.store, { sectionId: idIn(request), change: asked }));
  });
  routes.put('/sections/:id', may('change work'), async (request, response) => {
    const body = check(schema.changeSection, request.body);
    await answerWrite(server, request, response, (ctx) => change.changeSectionOf(ctx, idIn(request), body));
  });
  routes.put('/moulds/:id', may('change work'), async (request, response) => {
    const body = check(schema.changeMould, request.body);
    await answerWrite(server, request, response, (ctx) => change.changeMould(ctx, idIn(request), body));
  });
  routes.get('/pieces/:id', async (request, response) => {
    response.json(await pieceAnswer(server, idIn(request), sightsIn(response)));
  });
  routes.patch('/pieces/:id', may('change piece'), async (request, response) => {
    const body = check(pieceSchema.changePiece, request.body);
    await answerWrite(server, request, response, (ctx) => pieceService.changePiece(ctx, idIn(request), body));
  });
  routes.post('/pieces/:id/hold', may('hold'), async (request, response) => {
    const body = check(pieceSchema.hold, request.body);
    await answerWrite(server, request, response, (ctx) => pieceService.hold(ctx, idIn(request), body));
  });
  routes.post('/pieces/:id/release', may('release'), async (request, response) => {
    const body = check(pieceSchema.plain, request.body);
    await answerWrite(server, request, response, (ctx) => pieceService.release(ctx, idIn(request), body));
  });
  routes.post('/pieces/:id/cancel', may('cancel'), async (request, response) => {
    const body = check(pieceSchema.withReason, request.body);
    await answerWrite(server, request, response, (ctx) => pieceService.cancel(ctx, idIn(request), body));
  });
  routes.post('/pieces/:id/model-again', may('model again'), async (request, response) => {
    const body = check(pieceSchema.withReason, request.body);
    await answerWrite(server, request, response, (ctx) => pieceService.decideModelAgain(ctx, idIn(request), body));
  });
  routes.post('/casts/:id/lose', may('lose cast'), async (request, response) => {
    const body = check(pieceSchema.loseCast, request.body);
    await answerWrite(server, request, response, (ctx) => pieceService.lose(ctx, idIn(request), body));
  });
  return routes;
}
