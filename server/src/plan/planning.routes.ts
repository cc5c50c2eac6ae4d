import { createHash } from 'node:crypto';
import { Router } from 'express';
import type { Response } from 'express';
import type { Step } from '@kalvet/core';
import { dayIn } from '@kalvet/core';
import type { KeptAnswers } from '../live/kept-answers.ts';
import { rowsOf } from '../db/rows.ts';
import { answerWrite, check, idIn } from '../http/request.ts';
import type { Server } from '../http/request.ts';
import { changeNumber } from '../live/changes.ts';
import { may } from '../people/who.ts';
import { notFound } from '../write/problem.ts';
import { answerQuestion } from './answer-question.ts';
import { daySheet } from './day.service.ts';
import { draftsAnswer, dropDraft, openDraft, saveDraft } from './drafts.service.ts';
import * as drafts from './drafts.schema.ts';
import { settingsOf } from '../people/settings.ts';
import { holidayRegions, holidaysFrom } from './holidays.ts';
import * as lanes from './lanes.schema.ts';
import { lanesAnswer, moveSteps, reachAnswer } from './lanes.service.ts';
import { planCsv } from './plan-csv.ts';
import { planAnswer } from './plan-page.service.ts';
import type { PlanQuestion } from './planner-job.ts';
import * as schema from './planning.schema.ts';
import * as service from './planning.service.ts';
import { Questions } from './questions.ts';
import { saveStaffing } from './staffing.service.ts';
import { takeDraft } from './take-draft.service.ts';
import { judgeQuestion } from './what-if.ts';

/** The settings that plans are made with, the pages that show one, and questions about dates. */
export function planningRoutes(server: Server, pages: KeptAnswers): Router {
  const routes = Router();
  const ask = asking(server);
  routes.get('/planning', async (_request, response) => {
    response.json(await service.planning(server.store, server.now()));
  });
  routes.get('/planning/regions', (_request, response) => {
    response.json(holidayRegions());
  });
  routes.get('/planning/holidays', async (request, response) => {
    const { country, region } = check(schema.holidays, request.query);
    const today = dayIn(server.now(), (await settingsOf(server.store)).timeZone);
    response.json(holidaysFrom(today, country, region));
  });
  routes.get('/day', (request, response) => {
    const { day } = check(schema.daySheet, request.query);
    return pages.send(request, response, () => daySheet(server, day), day);
  });
  routes.get('/steps/:id/what-if', async (request, response) => {
    const { outcome, ticket } = check(schema.whatIf, request.query);
    const stepId = idIn(request);
    const [step] = await rowsOf<Step>(server.store, 'steps', { id: stepId });
    judgeQuestion(step, outcome);
    await ask(response, { ask: 'outcome', stepId, outcome }, ticket);
  });
  routes.get('/plan', (request, response) => pages.send(request, response, () => planAnswer(server)));
  routes.get('/plan/files', async (request, response) => {
    const { ticket } = check(drafts.asked, request.query);
    await ask(response, { ask: 'files' }, ticket);
  });
  routes.get('/plan.csv', async (_request, response) => {
    const { rows } = await planAnswer(server);
    response.setHeader('Content-Type', 'text/csv; charset=utf-8');
    response.setHeader('Content-Disposition', 'attachment; filename="kalvet-plan.csv"');
    response.send(planCsv(rows, (await settingsOf(server.store)).timeZone));
  });
  routes.get('/plan/pieces/:id/why', async (request, response) => {
    const { ticket } = check(drafts.asked, request.query);
    const pieceId = idIn(request);
    // A question is heavy: it is asked of what is there.
    if ((await rowsOf(server.store, 'pieces', { id: pieceId })).length === 0) throw notFound('piece');
    await ask(response, { ask: 'why', pieceId }, ticket);
  });
  routes.get('/plan/lanes', (request, response) => {
    const { from, to } = check(lanes.lanes, request.query);
    return pages.send(request, response, () => lanesAnswer(server, from, to), `${from} ${to}`);
  });
  routes.get('/plan/reach', async (request, response) => {
    response.json(await reachAnswer(server.store, check(lanes.reach, request.query).steps));
  });
  routes.post('/plan/moves', may('pin step'), async (request, response) => {
    const body = check(lanes.move, request.body);
    await answerWrite(server, request, response, (ctx) => moveSteps(ctx, body));
  });
  routes.get('/drafts', (request, response) => pages.send(request, response, () => draftsAnswer(server.store)));
  routes.get('/drafts/:id/outcome', async (request, response) => {
    const { ticket } = check(drafts.asked, request.query);
    const { changes } = await openDraft(server.store, idIn(request));
    await ask(response, { ask: 'draft', changes }, ticket);
  });
  routes.post('/drafts', may('keep draft'), async (request, response) => {
    const body = check(drafts.draft, request.body);
    await answerWrite(server, request, response, (ctx) => saveDraft(ctx, body));
  });
  routes.post('/drafts/:id/take', may('take draft'), async (request, response) => {
    const body = check(drafts.take, request.body);
    await answerWrite(server, request, response, (ctx) => takeDraft(ctx, idIn(request), body));
  });
  routes.post('/drafts/:id/drop', may('drop draft'), async (request, response) => {
    const { version } = check(drafts.drop, request.body);
    await answerWrite(server, request, response, (ctx) => dropDraft(ctx, idIn(request), version));
  });
  routes.post('/calendars', may('change settings'), async (request, response) => {
    const body = check(schema.calendar, request.body);
    await answerWrite(server, request, response, (ctx) => service.saveCalendar(ctx, body));
  });
  routes.post('/staffing', may('change staffing'), async (request, response) => {
    const body = check(schema.staffing, request.body);
    await answerWrite(server, request, response, (ctx) => saveStaffing(ctx, body));
  });
  routes.put('/settings', may('change settings'), async (request, response) => {
    const body = check(schema.settings, request.body);
    await answerWrite(server, request, response, (ctx) => service.saveSettings(ctx, body));
  });
  return routes;
}

/** Answers a question about dates, or says its place among those that wait. */
function asking(server: Server) {
  const questions = new Questions();
  const work = server.ask ?? ((now, question) => answerQuestion(server.store, now, question));
  return async (response: Response, question: PlanQuestion, ticket?: string): Promise<void> => {
    // Equal is what is asked of the same, in the shop as it stands.
    const key = `${await changeNumber(server.store)}.${createHash('sha256').update(JSON.stringify(question)).digest('hex')}`;
    const asked = await questions.ask(key, () => work(server.now(), question), ticket ? { ticket } : {});
    if ('answer' in asked) response.json(asked.answer);
    else response.status(202).json(asked);
  };
}
