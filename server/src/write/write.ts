import { createHash } from 'node:crypto';
import type { Id, Instant, Override, Person } from '@kalvet/core';
import { QueryTypes } from 'sequelize';
import { Context } from './context.ts';
import type { Store } from './context.ts';
import { Problem } from './problem.ts';
import { projectTouched } from '../shop/project.ts';

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
}

export interface Written<T> {
  readonly status: number;
  readonly answer: T & { change: number };
}

const RETRIED = new Set([1020, 1205, 1213]);
const ATTEMPTS = 3;

/** The driver's error number behind a Sequelize error. */
export const errnoOf = (error: unknown): number | undefined =>
  (error as { parent?: { errno?: number } }).parent?.errno ?? (error as { errno?: number }).errno;

/**
 * The one way in which records change. One transaction: the key, what the service does, the projections of what it
 * touched, the event with its subjects, and last the change number, so that numbers appear in the order of commits.
 * A deadlock, a lock time-out or a changed snapshot: the whole again, three times.
 */
export async function write<T extends object>(
  store: Store,
  request: WriteRequest,
  work: (ctx: Context) => Promise<T>,
  status = 200,
): Promise<Written<T>> {
  for (let attempt = 1; ; attempt++) {
    try {
      return await once(store, request, work, status);
    } catch (error) {
      if (!RETRIED.has(errnoOf(error) ?? 0) || attempt >= ATTEMPTS) throw error;
    }
  }
}

const hash = (asked: unknown): string =>
  createHash('sha256')
    .update(JSON.stringify(asked ?? null))
    .digest('hex');

async function once<T extends object>(
  store: Store,
  request: WriteRequest,
  work: (ctx: Context) => Promise<T>,
  status: number,
): Promise<Written<T>> {
  const tx = await store.db.transaction();
  try {
    const ctx = new Context(store, tx, request.actor, request.now, request.requestId, request.overrides ?? []);
    if (request.key && !(await takeKey(ctx, request))) {
      await tx.rollback();
      return await firstAnswer<T>(store, request);
    }
    const done = await work(ctx);
    await projectTouched(ctx);
    const change = await keepEvent(ctx);
    const answer = { ...done, change };
    if (request.key)
      await store.db.query('UPDATE idempotency SET status = ?, answer = ? WHERE id = ?', {
        replacements: [status, JSON.stringify(answer), request.key],
        transaction: tx,
      });
    await tx.commit();
    return { status, answer };
  } catch (error) {
    await tx.rollback().catch(() => undefined);
    throw error;
  }
}

/** False where the key was used before; a second writer with the same key waits here until the first has ended. */
async function takeKey(ctx: Context, request: WriteRequest): Promise<boolean> {
  try {
    await ctx.store.db.query('INSERT INTO idempotency (id, bodyHash, status, at) VALUES (?, ?, 0, ?)', {
      replacements: [request.key, hash(request.asked), sqlInstant(request.now)],
      transaction: ctx.tx,
    });
    return true;
  } catch (error) {
    if (errnoOf(error) === 1062) return false;
    throw error;
  }
}

async function firstAnswer<T>(store: Store, request: WriteRequest): Promise<Written<T>> {
  const [row] = await store.db.query<{ bodyHash: string; status: number; answer: unknown }>(
    'SELECT bodyHash, status, answer FROM idempotency WHERE id = ?',
    {
      replacements: [request.key],
      type: QueryTypes.SELECT,
    },
  );
  if (!row) throw new Problem('unavailable', 'The same record is being written at this moment. Try again.');
  if (row.bodyHash !== hash(request.asked))
    throw new Problem('key used', 'This form was already sent with other contents. Open it again.');
  const answer = typeof row.answer === 'string' ? JSON.parse(row.answer) : row.answer;
  return { status: row.status, answer: answer as T & { change: number } };
}

/** An instant as MariaDB takes it. */
export const sqlInstant = (instant: Instant): string => instant.replace('T', ' ').replace('Z', '');

async function keepEvent(ctx: Context): Promise<number> {
  const { event, actor } = ctx;
  if (!event) throw new Error('a write without its event');
  const reasons = [event.reason, ...ctx.passed.map(({ rule, reason }) => `${rule} overridden: ${reason}`)].filter(
    Boolean,
  );
  const number = await ctx.raise('change');
  await ctx.store.db.query(
    'INSERT INTO event (number, doneAt, typedAt, actorId, requestId, verb, text, room, bad, reason, changes) VALUES (?,?,?,?,?,?,?,?,?,?,?)',
    {
      replacements: [
        number,
        sqlInstant(event.doneAt ?? ctx.now),
        sqlInstant(ctx.now),
        actor?.id ?? null,
        ctx.requestId,
        event.verb,
        event.text.slice(0, 600),
        event.room ?? null,
        event.bad ?? false,
        reasons.length > 0 ? reasons.join(' · ').slice(0, 1000) : null,
        JSON.stringify(ctx.changes),
      ],
      transaction: ctx.tx,
    },
  );
  const subjects: [Id, string][] = [...ctx.subjects];
  if (subjects.length > 0)
    await ctx.store.db.query(
      `INSERT INTO event_subject (subject, number, kind) VALUES ${subjects.map(() => '(?,?,?)').join(',')}`,
      {
        replacements: subjects.flatMap(([id, kind]) => [id, number, kind]),
        transaction: ctx.tx,
      },
    );
  await ctx.onKept?.(number);
  return number;
}
