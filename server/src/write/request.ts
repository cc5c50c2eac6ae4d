import { randomUUID } from 'node:crypto';
import type { Request, Response } from 'express';
import type Joi from 'joi';
import type { Id, Instant, Override, Person, WhatIf } from '@kalvet/core';
import { personOf } from '../people/people.service.ts';
import type { Context, Store } from './context.ts';
import { Problem, invalid } from './problem.ts';
import { write } from './write.ts';

/** What every route works with. `now` is the clock: only main, the tests' and the demo's runner set it. */
export interface Server {
  readonly store: Store;
  readonly now: () => Instant;
  /** Asks in a thread what an outcome would do to the dates; in specs it is asked in place. */
  readonly whatIf?: (now: Instant, stepId: Id, outcome: string) => Promise<WhatIf>;
}

/** The one place that says who acts. Until sign-in comes this is a statement of the browser, not a proof. */
export async function actorOf(server: Server, request: Request): Promise<Person> {
  const id = request.header('X-Kalvet-Person');
  const person = id ? await personOf(server.store, id) : undefined;
  if (!person || !person.active) throw new Problem('who', 'Say who is working here first.');
  return person;
}

/** The one place that says whether somebody may do something. Rights will replace its answer and nothing else. */
export function mayDo(_actor: Person | null, _what: string): boolean {
  return true;
}

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
  const fields: Record<string, string> = {};
  for (const { path, message } of error.details) fields[path.join('.') || 'body'] ??= message;
  throw invalid(fields);
}

const KEY = /^[0-9a-fA-F-]{16,80}$/;

/** Runs a write for a request: who, key, overrides and clock are taken from it, and the first answer is given again. */
export async function answerWrite<T extends object>(
  server: Server,
  request: Request,
  response: Response,
  work: (ctx: Context) => Promise<T>,
  { anonymous = false, status = 200 }: { anonymous?: boolean; status?: number } = {},
): Promise<void> {
  const actor = anonymous ? null : await actorOf(server, request);
  if (!mayDo(actor, `${request.method} ${request.path}`)) throw new Problem('refused', 'You may not do that.');
  const key = request.header('Idempotency-Key');
  if (!key || !KEY.test(key)) throw invalid({ 'Idempotency-Key': 'must be a UUID made when the form opened' });
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
  if (!/^[0-9a-f-]{36}$/.test(value)) throw new Problem('not found', 'There is no such record.');
  return value;
}
