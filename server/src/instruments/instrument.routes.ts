import { Router } from 'express';
import type { DryingPlace, InstrumentsAnswer, Tank } from '@kalvet/core';
import { rowsOf } from '../db/rows.ts';
import { answerWrite, check } from '../http/request.ts';
import type { Server } from '../http/request.ts';
import { may } from '../people/who.ts';
import { instrumentsNow } from './instrument-read.service.ts';
import * as schema from './instrument.schema.ts';
import * as service from './instrument.service.ts';

/** Instruments, and what each said last: asked for every second while somebody looks. */
export function instrumentRoutes(server: Server & { readonly broker?: () => string | null }): Router {
  const routes = Router();
  routes.get('/instruments', async (_request, response) => {
    const answer: InstrumentsAnswer = {
      now: server.now(),
      instruments: await instrumentsNow(server.store),
      places: [
        ...(await rowsOf<DryingPlace>(server.store, 'dryingPlaces', {})).map(({ id, name }) => ({
          ...{ id, name, what: 'drying place' as const },
        })),
        ...(await rowsOf<Tank>(server.store, 'tanks', {})).map(({ id, name }) => ({ id, name, what: 'tank' as const })),
      ],
      broker: server.broker?.() ?? null,
    };
    response.json(answer);
  });
  routes.post('/instruments', may('save instrument'), async (request, response) => {
    const body = check(schema.instrument, request.body);
    await answerWrite(server, request, response, (ctx) => service.saveInstrument(ctx, body));
  });
  return routes;
}
