import { randomUUID } from 'node:crypto';
import type { Request, Response } from 'express';
import type Joi from 'joi';
import { validate as isUuid } from 'uuid';
import type { Disk, Id, Instant, Override, Scenario, Text } from '@kalvet/core';
import { roomToWrite } from '../keep/disk.ts';
import { fromOf, signedIn, withToken } from '../people/who.ts';
import { write } from '../shop/write-shop.ts';
import type { Context } from '../write/context.ts';
import { Problem, invalid } from '../write/problem.ts';
import { wrongInWords } from '../write/schemas.ts';
import type { Store } from '../write/store.ts';
import type { WriteRequest, Written } from '../write/write.ts';
import type { PlanQuestion } from '../plan/planner-job.ts';
import type { SetUpJob } from '../work/set-up-job.ts';
import { tooMany } from './list-limits.ts';

/** A rehearsal: its scenario, how fast its metal cools, and when the crew began. */
export interface Practice {
  readonly scenario: Scenario;
  readonly fast: number;
  startedAt: Instant | null;
}

/** What every route works with. `now` is the clock: only main, the tests' and the demo's runner set it. */
export interface Server {
  readonly store: Store;
  readonly now: () => Instant;
  /** The room left where the records lie; none where that is elsewhere. */
  readonly disk?: () => Disk | null;
  /** What is being done about a database that is away, in words. */
  readonly around?: () => string;
  /** Sets up a work of very many casts in a thread; in specs it is done in place. */
  readonly setUpApart?: (job: SetUpJob) => Promise<Written<object>>;
  /** A rehearsal that this server plays; none in earnest. */
  readonly practice?: Practice;
  /** Asks in a thread about dates; in specs it is asked in place. */
  readonly ask?: (now: Instant, question: PlanQuestion) => Promise<object>;
}

/** So many faults of a body are told; who mends them is told the next ones. */
const FAULTS_TOLD = 50;

/**
 * Checks a body against its schema.
 * @throws Problem `invalid` with a message for each field that is wrong, unknown ones included; the first fifty
 */
export function check<T>(schema: Joi.Schema<T>, body: unknown): T {
  // A list that is too long is refused by its length, before its items are looked at.
  const long = tooMany(schema, body ?? {});
  if (long) throw invalid(long);
  const { error, value } = schema.validate(body ?? {}, {
    abortEarly: false,
    convert: false,
    errors: { wrap: { label: false }, label: 'key' },
  });
  if (!error) return value as T;
  const fields: Record<string, Text> = {};
  for (const wrong of error.details.slice(0, FAULTS_TOLD))
    fields[(wrong.path.join('.') || 'body').slice(0, 200)] ??= wrongInWords(wrong);
  throw invalid(fields);
}

/** What a write is told of its request: who, key, overrides and clock. @throws Problem where it cannot be written now, or so */
export function writeRequest(server: Server, request: Request, response: Response): WriteRequest {
  const who = signedIn(response);
  withToken(request, who);
  roomToWrite(server.disk?.() ?? null);
  const key = request.header('Idempotency-Key');
  if (!key || !isUuid(key)) throw invalid({ 'Idempotency-Key': 'must be a UUID made when the form opened' });
  const body = request.body as { override?: Override[] } | undefined;
  return {
    actor: who.person,
    how: who.session.how,
    from: fromOf(request),
    now: server.now(),
    requestId: randomUUID(),
    // A key is its user's: nobody else can use it up, or read its answer.
    key: `${who.person.id}:${key}`,
    asked: [request.method, request.originalUrl, request.body],
    overrides: body?.override ?? [],
  };
}

/** Runs a write for a request; asked again with the same key, the first answer is given again. */
export async function answerWrite<T extends object>(
  server: Server,
  request: Request,
  response: Response,
  work: (ctx: Context) => Promise<T>,
  { status = 200 }: { status?: number } = {},
): Promise<void> {
  const done = await write(server.store, writeRequest(server, request, response), work, status);
  response.status(done.status).json(done.answer);
}

/** A path's id. @throws Problem where it is no id at all */
export function idIn(request: Request, name = 'id'): Id {
  const value = String(request.params[name] ?? '');
  if (!isUuid(value)) throw new Problem('not found', 'There is no such record.');
  return value;
}
