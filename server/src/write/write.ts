import { METRIC, TAKEN_BACK, shopReader } from '@kalvet/core';
import { createHash } from 'node:crypto';
import type { How, Instant, Override, Person, Subject } from '@kalvet/core';
import { inWords } from '@kalvet/core';
import type { Row } from '../db/tables.ts';
import { fromRow } from '../db/tables.ts';
import type { From } from '../people/audit.ts';
import { Context } from './context.ts';
import { errnoOf } from './errno.ts';
import { Problem } from './problem.ts';
import type { Store } from './store.ts';

/** What a write needs to know beside its own body. */
export interface WriteRequest {
  readonly actor: Person | null;
  readonly now: Instant;
  readonly requestId: string;
  /** `Idempotency-Key`, made when the form opened; none for writes that the server makes for itself. */
  readonly key?: string;
  /** What the key stands for: method, path and body. */
  readonly asked?: unknown;
  readonly overrides?: readonly Override[];
  /** How sure it is who writes, and from where. */
  readonly how?: How;
  readonly from?: From;
}

export interface Written<T> {
  readonly status: number;
  readonly answer: T & { change: number };
}

/** What a write does beside its service's own work: keeps ready anew what it touched. */
export type Afterwards = (ctx: Context) => Promise<void>;

const RETRIED = new Set([1020, 1205, 1213]);
const ATTEMPTS = 3;

/**
 * The one way in which records change. One transaction: the key, what the service does, the projections of what it
 * touched, the event with its subjects, and last the change number, so that numbers appear in the order of commits.
 * A deadlock, a lock time-out or a changed snapshot: the whole again, three times.
 */
export const writer =
  (afterwards: Afterwards) =>
  async <T extends object>(
    store: Store,
    request: WriteRequest,
    work: (ctx: Context) => Promise<T>,
    status = 200,
  ): Promise<Written<T>> => {
    for (let attempt = 1; ; attempt++) {
      try {
        return await once(store, request, work, status, afterwards);
      } catch (error) {
        if (!RETRIED.has(errnoOf(error) ?? 0) || attempt >= ATTEMPTS) throw error;
      }
    }
  };

const hash = (asked: unknown): string =>
  createHash('sha256')
    .update(JSON.stringify(asked ?? null))
    .digest('hex');

async function once<T extends object>(
  store: Store,
  request: WriteRequest,
  work: (ctx: Context) => Promise<T>,
  status: number,
  afterwards: Afterwards,
): Promise<Written<T>> {
  const tx = await store.db.transaction();
  try {
    const ctx = new Context(
      store,
      tx,
      request.actor,
      request.now,
      request.requestId,
      request.overrides ?? [],
      request.how,
      request.from,
    );
    if (request.key && !(await takeKey(ctx, request))) {
      await tx.rollback();
      return await firstAnswer<T>(store, request);
    }
    const done = await work(ctx);
    await afterwards(ctx);
    const change = await keepEvent(ctx);
    const answer = { ...done, change, ...(TAKEN_BACK.has(ctx.event!.verb) && { takesBack: true }) };
    if (request.key)
      await store.models.keys.update({ status, answer }, { where: { id: request.key }, transaction: tx });
    await tx.commit();
    return { status, answer };
  } catch (error) {
    await tx.rollback().catch((failure: Error) => console.error('rolling back:', failure.message));
    throw error;
  }
}

/** False where the key was used before; a second writer with the same key waits here until the first has ended. */
async function takeKey(ctx: Context, request: WriteRequest): Promise<boolean> {
  try {
    await ctx.store.models.keys.create(
      { id: request.key, bodyHash: hash(request.asked), status: 0, at: request.now },
      { transaction: ctx.tx },
    );
    return true;
  } catch (error) {
    if (errnoOf(error) === 1062) return false;
    throw error;
  }
}

interface KeyRow {
  readonly bodyHash: string;
  readonly status: number;
  readonly answer: unknown;
}

async function firstAnswer<T>(store: Store, request: WriteRequest): Promise<Written<T>> {
  const found = (await store.models.keys.findByPk(request.key, { raw: true })) as unknown as Row | null;
  if (!found) throw new Problem('unavailable', 'The same record is being written at this moment. Try again.');
  const row = fromRow<KeyRow>('keys', found);
  if (row.bodyHash !== hash(request.asked))
    throw new Problem('key used', 'This form was already sent with other contents. Open it again.');
  return { status: row.status, answer: row.answer as T & { change: number } };
}

/** Letters that the columns of an event take. */
const TEXT_LETTERS = 600;
const REASON_LETTERS = 1000;

async function keepEvent(ctx: Context): Promise<number> {
  const { event, actor, store, tx } = ctx;
  if (!event) throw new Error('a write without its event');
  const passed = ctx.passed.map(({ rule, reason }) => `${rule} overridden: ${reason}`);
  const reasons = [event.reason, ...passed].filter(Boolean).join(' · ');
  const { timeZone } = await ctx.settings();
  const number = await ctx.raise('change');
  await store.models.events.create(
    {
      number,
      doneAt: event.doneAt ?? ctx.now,
      typedAt: ctx.now,
      actorId: actor?.id ?? null,
      requestId: ctx.requestId,
      verb: event.verb,
      text: inWords(event.text, shopReader(timeZone, METRIC)).slice(0, TEXT_LETTERS),
      says: typeof event.text === 'string' ? null : event.text,
      room: event.room ?? null,
      bad: event.bad ?? false,
      reason: reasons === '' ? null : reasons.slice(0, REASON_LETTERS),
      changes: ctx.changes,
      takenBackBy: null,
      how: ctx.how,
    },
    { transaction: tx },
  );
  await store.models.eventSubjects.bulkCreate(
    [...ctx.subjects].map(([subject, kind]: [string, Subject]) => ({ subject, number, kind })),
    { transaction: tx },
  );
  for (const { rule, reason } of ctx.passed) await ctx.audit('override', `${rule}: ${reason}`);
  await ctx.onKept?.(number);
  return number;
}
