import { Router } from 'express';
import { answerWrite, check, idIn } from '../http/request.ts';
import type { Server } from '../http/request.ts';
import * as schema from './people.schema.ts';
import * as service from './people.service.ts';

export function peopleRoutes(server: Server): Router {
  const routes = Router();
  // The first person cannot say who adds them.
  routes.post('/people', async (request, response) => {
    const body = check(schema.addPerson, request.body);
    const anonymous = !request.header('X-Kalvet-Person');
    await answerWrite(server, request, response, (ctx) => service.addPerson(ctx, body), {
      anonymous,
      status: 201,
    });
  });
  routes.patch('/people/:id', async (request, response) => {
    const body = check(schema.changePerson, request.body);
    await answerWrite(server, request, response, (ctx) => service.changePerson(ctx, idIn(request), body));
  });
  return routes;
}
