import { Router } from 'express';
import { answerWrite, check } from '../http/request.ts';
import type { Server } from '../http/request.ts';
import type { KeptAnswers } from '../live/kept-answers.ts';
import { may } from '../people/who.ts';
import * as schema from './tank.schema.ts';
import * as service from './tank.service.ts';
import { tanksPage } from './tanks-page.service.ts';

/** Slurry tanks, what is found at them, and what the shell room has on its shelf. */
export function tankRoutes(server: Server, pages: KeptAnswers): Router {
  const routes = Router();
  routes.get('/tanks', (request, response) => pages.send(request, response, () => tanksPage(server)));
  routes.post('/shell/tanks', may('save tank'), async (request, response) => {
    const body = check(schema.tank, request.body);
    await answerWrite(server, request, response, (ctx) => service.saveTank(ctx, body));
  });
  routes.post('/shell/tank-checks', may('check tank'), async (request, response) => {
    const body = check(schema.tankCheck, request.body);
    await answerWrite(server, request, response, (ctx) => service.checkTank(ctx, body));
  });
  routes.post('/shell/tank-decisions', may('decide tank'), async (request, response) => {
    const body = check(schema.tankDecision, request.body);
    await answerWrite(server, request, response, (ctx) => service.decideTank(ctx, body));
  });
  routes.post('/shell/supplies', may('save supply'), async (request, response) => {
    const body = check(schema.supply, request.body);
    await answerWrite(server, request, response, (ctx) => service.saveSupply(ctx, body));
  });
  return routes;
}
