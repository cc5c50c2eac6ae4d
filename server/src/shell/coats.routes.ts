import { Router } from 'express';
import type { KeptAnswers } from '../live/kept-answers.ts';
import type { Server } from '../http/request.ts';
import { answerWrite, check, idIn } from '../http/request.ts';
import { may } from '../people/who.ts';
import * as schema from './climate.schema.ts';
import * as climate from './climate.service.ts';
import * as planSchema from './coat-plan.schema.ts';
import * as plans from './coat-plan.service.ts';
import { coats } from './coats.service.ts';
import { setShape } from './shape.service.ts';

/** The shell room: what hangs in it, its air, and what is looked at. */
export function coatRoutes(server: Server, pages: KeptAnswers): Router {
  const routes = Router();
  routes.get('/coats', (request, response) => pages.send(request, response, () => coats(server)));
  routes.post('/shell/climate', may('read climate'), async (request, response) => {
    const body = check(schema.climate, request.body);
    await answerWrite(server, request, response, (ctx) => climate.typeClimate(ctx, body));
  });
  routes.post(CLIMATE_FILE, may('import climate'), async (request, response) => {
    const body = check(schema.file, request.body);
    await answerWrite(server, request, response, (ctx) => climate.importClimate(ctx, body));
  });
  routes.post('/shell/places', may('save drying place'), async (request, response) => {
    const body = check(schema.place, request.body);
    await answerWrite(server, request, response, (ctx) => climate.saveDryingPlace(ctx, body));
  });
  routes.post('/shell/hang', may('hang trees'), async (request, response) => {
    const body = check(schema.hang, request.body);
    await answerWrite(server, request, response, (ctx) => climate.hangTrees(ctx, body));
  });
  routes.post('/shell/looks', may('look at coat'), async (request, response) => {
    const body = check(schema.look, request.body);
    await answerWrite(server, request, response, (ctx) => climate.lookAtCoat(ctx, body));
  });
  routes.post('/shell/coat-plans', may('save coat plan'), async (request, response) => {
    const body = check(planSchema.coatPlan, request.body);
    await answerWrite(server, request, response, (ctx) => plans.saveCoatPlan(ctx, body));
  });
  routes.post('/trees/:id/coats', may('change coats'), async (request, response) => {
    const body = check(planSchema.treeCoats, request.body);
    await answerWrite(server, request, response, (ctx) => plans.changeTreeCoats(ctx, idIn(request), body));
  });
  routes.post('/sections/:id/shape', may('set shape'), async (request, response) => {
    const body = check(planSchema.shape, request.body);
    await answerWrite(server, request, response, (ctx) => setShape(ctx, idIn(request), body));
  });
  return routes;
}

/** A logger's file is larger than any form. */
export const CLIMATE_FILE = '/shell/climate/file';
export const CLIMATE_FILE_LIMIT = '10mb';
