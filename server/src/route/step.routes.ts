import { Router } from 'express';
import { answerWrite, check, idIn } from '../http/request.ts';
import type { Server } from '../http/request.ts';
import { MOST, kindOf, veiled } from '@kalvet/core';
import { validate as isUuid } from 'uuid';
import { sightsIn } from '../people/rights.ts';
import { may } from '../people/who.ts';
import { Problem, invalid, notFound } from '../write/problem.ts';
import { stepForm, trayForm } from './step-form.service.ts';
import * as schema from './step.schema.ts';
import * as service from './step.service.ts';
import { takeBack } from './take-back.service.ts';

export function stepRoutes(server: Server): Router {
  const routes = Router();
  routes.get('/steps/:id/form', async (request, response) => {
    const form = await stepForm(server, idIn(request));
    const step = veiled(kindOf(form.step.kind), form.step, sightsIn(response));
    response.json({ ...form, step });
  });
  routes.get('/steps/forms', async (request, response) => {
    const ids = String(request.query['ids'] ?? '').split(',');
    if (ids.length > MOST.steps) throw invalid({ ids: `at most ${MOST.steps} steps are recorded together` });
    if (!ids.every((id) => isUuid(id))) throw new Problem('not found', 'There is no such record.');
    response.json(await trayForm(server, [...new Set(ids)]));
  });
  routes.post('/steps', may('insert step'), async (request, response) => {
    const body = check(schema.insertStep, request.body);
    await answerWrite(server, request, response, (ctx) => service.insertStep(ctx, body), { status: 201 });
  });
  routes.post('/steps/:id/start', may('start step'), async (request, response) => {
    const body = check(schema.startStep, request.body);
    await answerWrite(server, request, response, (ctx) => service.startStep(ctx, idIn(request), body));
  });
  routes.post('/steps/:id/record', may('record step'), async (request, response) => {
    const body = check(schema.recordStep, request.body);
    await answerWrite(server, request, response, (ctx) => service.recordStep(ctx, idIn(request), body));
  });
  routes.post('/steps/:id/pin', may('pin step'), async (request, response) => {
    const body = check(schema.pin, request.body);
    await answerWrite(server, request, response, (ctx) => service.pinStep(ctx, idIn(request), body));
  });
  routes.post('/steps/:id/decide', may('decide'), async (request, response) => {
    const body = check(schema.decide, request.body);
    await answerWrite(server, request, response, (ctx) => service.decide(ctx, idIn(request), body));
  });
  routes.post('/records', may('record step'), async (request, response) => {
    const body = check(schema.recordMany, request.body);
    await answerWrite(server, request, response, (ctx) => service.recordMany(ctx, body));
  });
  routes.post('/changes/:number/take-back', may('take back'), async (request, response) => {
    const number = Number(request.params['number']);
    if (!Number.isInteger(number) || number < 1) throw notFound('record');
    const body = check(schema.takeBack, request.body);
    await answerWrite(server, request, response, (ctx) => takeBack(ctx, number, body));
  });
  return routes;
}
