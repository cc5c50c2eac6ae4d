import { Router } from 'express';
import { answerWrite, check, idIn } from '../http/request.ts';
import type { Server } from '../http/request.ts';
import * as schema from './people.schema.ts';
import * as service from './people.service.ts';
import * as session from './session.schema.ts';
import { fromOf, may, signedIn } from './who.ts';

export function peopleRoutes(server: Server, openid: boolean): Router {
  const routes = Router();
  routes.get('/people', async (_request, response) => {
    response.json(await service.peoplePage(server.store, server.now(), openid));
  });
  routes.post('/people', may('add person'), async (request, response) => {
    const body = check(schema.addPerson, request.body);
    await answerWrite(server, request, response, (ctx) => service.addPerson(ctx, body), { status: 201 });
  });
  // Their own units everybody changes; the rest is asked where it is changed.
  routes.patch('/people/:id', may('anybody'), async (request, response) => {
    const body = check(schema.changePerson, request.body);
    await answerWrite(server, request, response, (ctx) => service.changePerson(ctx, idIn(request), body));
  });
  routes.post('/people/:id/password', may('reset password'), async (request, response) => {
    check(session.nothing, request.body);
    response.json(await service.resetPassword(server.store, signedIn(response), idIn(request), fromOf(request)));
  });
  routes.put('/people/:id/openid', may('reset password'), async (request, response) => {
    const { openid: name } = check(session.openid, request.body);
    await service.setOpenid(server.store, signedIn(response), idIn(request), name, fromOf(request));
    response.json({});
  });
  return routes;
}
