import { Router } from 'express';
import { answerWrite, check, idIn } from '../write/request.ts';
import type { Server } from '../write/request.ts';
import { floor } from './floor.service.ts';
import { pieceAnswer } from './piece-page.service.ts';
import * as pieceSchema from './piece.schema.ts';
import * as pieceService from './piece.service.ts';
import { setUpWork as setUpWorkSchema } from './work.schema.ts';
import { setUpWork } from './work.service.ts';

export function workRoutes(server: Server): Router {
  const routes = Router();
  routes.get('/floor', async (_request, response) => {
    response.json(await floor(server));
  });
  routes.post('/works', async (request, response) => {
    const body = check(setUpWorkSchema, request.body);
    await answerWrite(server, request, response, (ctx) => setUpWork(ctx, body), { status: 201 });
  });
  routes.get('/pieces/:id', async (request, response) => {
    response.json(await pieceAnswer(server, idIn(request)));
  });
  routes.patch('/pieces/:id', async (request, response) => {
    const body = check(pieceSchema.changePiece, request.body);
    await answerWrite(server, request, response, (ctx) => pieceService.changePiece(ctx, idIn(request), body));
  });
  routes.post('/pieces/:id/hold', async (request, response) => {
    const body = check(pieceSchema.hold, request.body);
    await answerWrite(server, request, response, (ctx) => pieceService.hold(ctx, idIn(request), body));
  });
  routes.post('/pieces/:id/release', async (request, response) => {
    const body = check(pieceSchema.plain, request.body);
    await answerWrite(server, request, response, (ctx) => pieceService.release(ctx, idIn(request), body));
  });
  routes.post('/pieces/:id/cancel', async (request, response) => {
    const body = check(pieceSchema.withReason, request.body);
    await answerWrite(server, request, response, (ctx) => pieceService.cancel(ctx, idIn(request), body));
  });
  routes.post('/pieces/:id/model-again', async (request, response) => {
    const body = check(pieceSchema.withReason, request.body);
    await answerWrite(server, request, response, (ctx) => pieceService.decideModelAgain(ctx, idIn(request), body));
  });
  routes.post('/casts/:id/lose', async (request, response) => {
    const body = check(pieceSchema.loseCast, request.body);
    await answerWrite(server, request, response, (ctx) => pieceService.lose(ctx, idIn(request), body));
  });
  return routes;
}
