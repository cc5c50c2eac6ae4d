import { Router } from 'express';
import { answerWrite, check, idIn } from '../http/request.ts';
import type { Server } from '../http/request.ts';
import { may, signedIn } from '../people/who.ts';
import { askJob, jobOf, stopJob } from './model-job.service.ts';
import { modelsAnswer } from './model-page.service.ts';
import * as schema from './model.schema.ts';
import * as service from './model.service.ts';

/** Models of works: what was measured, how they are cut and poured, and what their sections' waxes weigh by them. */
export function modelRoutes(server: Server): Router {
  const routes = Router();
  routes.get('/works/:id/models', async (request, response) => {
    response.json(await modelsAnswer(server.store, idIn(request)));
  });
  routes.post('/models', may('save model'), async (request, response) => {
    const body = check(schema.saveModel, request.body);
    await answerWrite(server, request, response, (ctx) => service.saveModel(ctx, body), { status: 201 });
  });
  routes.post('/models/jobs', may('save model'), async (request, response) => {
    const body = check(schema.askModelJob, request.body);
    response.status(201).json(await askJob(server, signedIn(response).person.id, body));
  });
  routes.get('/models/jobs/:id', async (request, response) => {
    response.json(await jobOf(server.store, signedIn(response).person.id, idIn(request)));
  });
  routes.post('/models/jobs/:id/stop', may('save model'), async (request, response) => {
    response.json(await stopJob(server.store, signedIn(response).person.id, idIn(request)));
  });
  routes.post('/models/:id/put-away', may('put model away'), async (request, response) => {
    const body = check(schema.putModelAway, request.body);
    await answerWrite(server, request, response, (ctx) => service.putModelAway(ctx, idIn(request), body));
  });
  routes.put('/sections/:id/estimates', may('estimate section'), async (request, response) => {
    const body = check(schema.estimateSection, request.body);
    await answerWrite(server, request, response, (ctx) => service.estimateSection(ctx, idIn(request), body));
  });
  routes.put('/sections/:id/way-up', may('set way up'), async (request, response) => {
    const body = check(schema.saveWayUp, request.body);
    await answerWrite(server, request, response, (ctx) => service.saveWayUp(ctx, idIn(request), body));
  });
  routes.put('/works/:id/silhouette', may('set silhouette'), async (request, response) => {
    const body = check(schema.saveSilhouette, request.body);
    await answerWrite(server, request, response, (ctx) => service.saveSilhouette(ctx, idIn(request), body));
  });
  return routes;
}
