import { Router } from 'express';
import { answerWrite, check } from '../http/request.ts';
import type { Server } from '../http/request.ts';
import { may } from '../people/who.ts';
import { notFound } from '../write/problem.ts';
import { form } from '../write/schemas.ts';
import { practiceAnswer } from './practice.service.ts';

/** A rehearsal on a practice shop; a shop in earnest has no such address. */
export function practiceRoutes(server: Server): Router {
  const routes = Router();
  routes.get('/practice', async (_request, response) => {
    response.json(await practiceAnswer(server));
  });
  routes.post('/practice/begin', may('pour'), async (request, response) => {
    check(form<object>({}), request.body);
    const { practice } = server;
    if (!practice) throw notFound('rehearsal');
    await answerWrite(server, request, response, async (ctx) => {
      practice.startedAt ??= ctx.now;
      ctx.event = { verb: 'read heat', text: 'The rehearsal begins', room: 'pour' };
      return { startedAt: practice.startedAt };
    });
  });
  return routes;
}
