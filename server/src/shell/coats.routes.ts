import { Router } from 'express';
import type { KeptAnswers } from '../live/kept-answers.ts';
import type { Server } from '../http/request.ts';
import { coats } from './coats.service.ts';

export function coatRoutes(server: Server, pages: KeptAnswers): Router {
  const routes = Router();
  routes.get('/coats', (request, response) => pages.send(request, response, () => coats(server)));
  return routes;
}
