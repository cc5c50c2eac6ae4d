import { Router } from 'express';
import type { Server } from '../http/request.ts';
import { signedIn } from '../people/who.ts';
import { find } from './find.service.ts';

/** `GET /find?q=`: pieces by work, tag (`OTT 5`), mark (`heron 4/8`) or tree (`T-12`); works, orders, clients, heats, loads, lots, people. */
export function findRoutes({ store }: Server): Router {
  const routes = Router();
  routes.get('/find', async (request, response) => {
    const asked = String(request.query['q'] ?? '')
      .trim()
      .slice(0, 80);
    response.json({ found: asked === '' ? [] : await find(store, asked, signedIn(response).person) });
  });
  return routes;
}
