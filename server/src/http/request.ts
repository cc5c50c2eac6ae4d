import { randomUUID } from 'node:crypto';
import type { NextFunction, Request, Response } from 'express';
import type Joi from 'joi';
import { validate as isUuid } from 'uuid';
import type { Disk, Id, Instant, Override, Person, Text, WhatIf } from '@kalvet/core';
import type { Sight } from '../people/rights.ts';
import { mayRead, sightOf } from '../people/rights.ts';
import { roomToWrite } from '../keep/disk.ts';
import { personOf } from '../people/person-of.ts';
import { write } from '../shop/write-shop.ts';
import type { Context } from '../write/context.ts';
import { Problem, invalid } from '../write/problem.ts';
import { wrongInWords } from '../write/schemas.ts';
import type { Store } from '../write/store.ts';

/** What every route works with. `now` is the clock: only main, the tests' and the demo's runner set it. */
export interface Server {
  readonly store: Store;
  readonly now: () => Instant;
  /** Asks in a thread what an outcome would do to the dates; in specs it is asked in place. */
  /** The room left where the records lie; none where that is elsewhere. */
  readonly disk?: () => Disk | null;
  /** What is being done about a database that is away, in words. */
  readonly around?: () => string;
  readonly whatIf?: (now: Instant, stepId: Id, outcome: string) => Promise<WhatIf>;
}

const PERSON = 'X-Kalvet-Person';

/** The one place that says who asks. Until sign-in comes this is a statement of the browser, not a proof. */
async function whoAsks(server: Server, request: Request): Promise<Person | null> {
  const id = request.header(PERSON);
  const person = id && isUuid(id) ? await personOf(server.store, id) : undefined;
  return person?.active ? person : null;
}

/** The one guard of every read: what is asked for is answered as far as the asker may see it. */
export const guardReads =
  (server: Server) =>
  async (request: Request, response: Response, next: NextFunction): Promise<void> => {
    if (request.method === 'GET') {
      const sight = sightOf(await whoAsks(server, request));
      if (!mayRead(sight, request.path)) throw new Problem('refused', 'You may not see that.', { rule: 'rights' });
      (response.locals as { sight?: Sight }).sight = sight;
    }
    next();
  };

/** What the asker of a read may see, as its guard found. */
export const sightIn = (response: Response): Sight => {
  const { sight } = response.locals as { sight?: Sight };
  if (!sight) throw new Error('a read that passed no guard');
  return sight;
};

/**
 * Checks a body against its schema.
 * @throws Problem `invalid` with a message for each field that is wrong, unknown ones included
 */
export function check<T>(schema: Joi.Schema<T>, body: unknown): T {
  const { error, value } = schema.validate(body ?? {}, {
    abortEarly: false,
    convert: false,
    errors: { wrap: { label: false }, label: 'key' },
  });
  if (!error) return value as T;
  const fields: Record<string, Text> = {};
  for (const wrong of error.details) fields[wrong.path.join('.') || 'body'] ??= wrongInWords(wrong);
  throw invalid(fields);
}

/** Runs a write for a request: who, key, overrides and clock are taken from it, and the first answer is given again. */
export async function answerWrite<T extends object>(
  server: Server,
  request: Request,
  response: Response,
  work: (ctx: Context) => Promise<T>,
  { anonymous = false, status = 200 }: { anonymous?: boolean; status?: number } = {},
): Promise<void> {
  roomToWrite(server.disk?.() ?? null);
  const actor = await whoAsks(server, request);
  if (!actor && !anonymous) throw new Problem('who', 'Say who is working here first.');
  const key = request.header('Idempotency-Key');
  if (!key || !isUuid(key)) throw invalid({ 'Idempotency-Key': 'must be a UUID made when the form opened' });
  const body = request.body as { override?: Override[] } | undefined;
  const done = await write(
    server.store,
    {
      actor,
      now: server.now(),
      requestId: randomUUID(),
      key,
      asked: [request.method, request.originalUrl, request.body],
      overrides: body?.override ?? [],
    },
    work,
    status,
  );
  response.status(done.status).json(done.answer);
}

/** A path's id. @throws Problem where it is no id at all */
export function idIn(request: Request, name = 'id'): Id {
  const value = String(request.params[name] ?? '');
  if (!isUuid(value)) throw new Problem('not found', 'There is no such record.');
  return value;
}
