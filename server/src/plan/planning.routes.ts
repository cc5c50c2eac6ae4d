import { Router } from 'express';
import type { KeptAnswers } from '../live/kept-answers.ts';
import { answerWrite, check, idIn } from '../http/request.ts';
import type { Server } from '../http/request.ts';
import { may } from '../people/who.ts';
import { daySheet } from './day.service.ts';
import { planAnswer } from './plan-page.service.ts';
import * as schema from './planning.schema.ts';
import type { Step } from '@kalvet/core';
import { rowsOf } from '../db/rows.ts';
import { changeNumber } from '../live/changes.ts';
import { Questions } from './questions.ts';
import { judgeQuestion, whatIf } from './what-if.ts';
import * as service from './planning.service.ts';

export function planningRoutes(server: Server, pages: KeptAnswers): Router {
  const routes = Router();
  const questions = new Questions();
  routes.get('/planning', async (_request, response) => {
    response.json(await service.planning(server.store));
  });
  routes.get('/day', (request, response) => {
    const { day } = check(schema.daySheet, request.query);
    return pages.send(request, response, () => daySheet(server, day), day);
  });
  routes.get('/steps/:id/what-if', async (request, response) => {
    const { outcome, ticket } = check(schema.whatIf, request.query);
    const id = idIn(request);
    const [step] = await rowsOf<Step>(server.store, 'steps', { id });
    judgeQuestion(step, outcome);
    const work = server.whatIf ?? ((now, stepId, how) => whatIf(server.store, now, stepId, how));
    // Equal is what is asked of the same step, in the shop as it stands.
    const key = `${await changeNumber(server.store)}.${id}.${outcome}`;
    const asked = await questions.ask(key, () => work(server.now(), id, outcome), ticket ? { ticket } : {});
    if ('answer' in asked) response.json(asked.answer);
    else response.status(202).json(asked);
  });
  routes.get('/plan', (request, response) => pages.send(request, response, () => planAnswer(server)));
  routes.post('/calendars', may('change settings'), async (request, response) => {
    const body = check(schema.calendar, request.body);
    await answerWrite(server, request, response, (ctx) => service.saveCalendar(ctx, body));
  });
  routes.put('/settings', may('change settings'), async (request, response) => {
    const body = check(schema.settings, request.body);
    await answerWrite(server, request, response, (ctx) => service.saveSettings(ctx, body));
  });
  return routes;
}
