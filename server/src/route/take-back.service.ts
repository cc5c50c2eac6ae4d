import type { Id, ShopIndex } from '@kalvet/core';
import { isClosed, isOpen, linksOf, stepLabel } from '@kalvet/core';
import type { TableName } from '../db/tables.ts';
import { lockShop, worksOf } from '../shop/locked.ts';
import type { Change, Context } from '../write/context.ts';
import { Problem, notFound, refused } from '../write/problem.ts';
import { errnoOf } from '../write/write.ts';
import type { TakeBack } from './step.schema.ts';

/** What can be taken back: records of the work, not the setting up of works and people. */
export const TAKEN_BACK: ReadonlySet<string> = new Set([
  'start step',
  'record step',
  'insert step',
  'lose cast',
  'hold',
  'release',
  'cancel',
  'model again',
  'plan load',
  'record load',
  'abandon load',
  'plan heat',
  'confirm crew',
  'pour',
  'finish heat',
  'abandon heat',
]);

interface EventRow {
  readonly number: number;
  readonly verb: string;
  readonly text: string;
  readonly changes: unknown;
  readonly takenBackBy: number | null;
}

const changesOf = (row: EventRow): Change[] =>
  (typeof row.changes === 'string' ? JSON.parse(row.changes) : row.changes) as Change[];

/**
 * Takes a wrong record back: everything it changed is as before, everything it made is gone, and both it and the taking
 * back stay in the history. Refused as long as something done hangs on it, naming what must be taken back first.
 */
export async function takeBack(ctx: Context, number: number, given: TakeBack): Promise<{ takenBack: number }> {
  const [event] = await ctx.select<EventRow>(
    'SELECT number, verb, text, changes, takenBackBy FROM event WHERE number = ? FOR UPDATE',
    [number],
  );
  if (!event) throw notFound('record');
  if (event.takenBackBy !== null) throw never('closed', 'This record is taken back already.');
  if (!TAKEN_BACK.has(event.verb)) throw never('state', 'This cannot be taken back; change it instead.');
  const subjects = await ctx.select<{ subject: Id; kind: string }>(
    'SELECT subject, kind FROM event_subject WHERE number = ?',
    [number],
  );
  const workIds = await worksOfSubjects(ctx, subjects);
  const pieceIds = subjects.filter(({ kind }) => kind === 'piece').map(({ subject }) => subject);
  const index = workIds.length > 0 ? await lockShop(ctx, workIds, pieceIds) : undefined;
  const changes = changesOf(event);

  const rows = new Map<Id, Record<string, unknown> | undefined>();
  for (const { table, id } of changes)
    if (!rows.has(id)) rows.set(id, await ctx.find<Record<string, unknown>>(table, id, true));
  for (const change of changes) await refuseIfChangedSince(ctx, event, change, rows.get(change.id), changes);
  if (index) refuseIfFollowed(index, changes);

  for (const change of [...changes].reverse()) await undo(ctx, change);
  const made = changes.filter(({ op }) => op === 'insert').map(({ id }) => id);
  if (made.length > 0)
    await ctx.store.db.query('DELETE FROM projection WHERE id IN (?)', {
      replacements: [made],
      transaction: ctx.tx,
    });

  for (const { subject, kind } of subjects) ctx.concern(kind as 'piece', subject);
  ctx.event = { verb: 'take back', text: `Taken back: ${event.text}`, reason: given.reason };
  ctx.onKept = async (by) => {
    await ctx.store.db.query('UPDATE event SET takenBackBy = ? WHERE number = ?', {
      replacements: [by, number],
      transaction: ctx.tx,
    });
  };
  return { takenBack: number };
}

/** Every work that the event touched, whatever it named: a piece, a cast, a tree or a mould belongs to one. */
async function worksOfSubjects(ctx: Context, subjects: readonly { subject: Id; kind: string }[]): Promise<Id[]> {
  const found = new Set<Id>();
  for (const { subject, kind } of subjects) {
    if (kind === 'work') found.add(subject);
    else if (['piece', 'cast', 'tree', 'mould'].includes(kind))
      for (const id of await worksOf(ctx, kind, subject)) found.add(id);
  }
  return [...found];
}

const never = (rule: 'closed' | 'state' | 'follows', message: string) =>
  refused([{ rule, message, mayOverride: false }]);

async function refuseIfChangedSince(
  ctx: Context,
  event: EventRow,
  change: Change,
  row: Record<string, unknown> | undefined,
  all: readonly Change[],
): Promise<void> {
  if (change.op === 'delete') throw never('state', 'This cannot be taken back.');
  // A record made and then changed by the same event is compared by its last change.
  const last = all.filter(({ id, op }) => id === change.id && op === 'update').at(-1);
  const untouched =
    row !== undefined &&
    (change.op === 'insert'
      ? row['version'] === 1 + all.filter(({ id, op }) => id === change.id && op === 'update').length
      : last !== change || Object.entries(change.after ?? {}).every(([key, value]) => same(row[key], value)));
  if (untouched) return;
  const later = await ctx.select<EventRow>(
    'SELECT number, verb, text, changes, takenBackBy FROM event WHERE number > ? AND takenBackBy IS NULL AND verb <> ? AND changes LIKE ? ORDER BY number DESC LIMIT 1',
    [event.number, 'take back', `%${change.id}%`],
  );
  throw never(
    'follows',
    later[0] ? `Take this back first: ${later[0].text}.` : 'What this record made has been changed since.',
  );
}

const same = (a: unknown, b: unknown) => JSON.stringify(a ?? null) === JSON.stringify(b ?? null);

/** Nothing done may hang on a step that opens again. */
function refuseIfFollowed(index: ShopIndex, changes: readonly Change[]): void {
  const closesAgain = changes.filter(
    ({ table, op, before }) =>
      table === 'steps' && op === 'update' && isOpen({ state: (before?.['state'] ?? 'done') as 'done' }),
  );
  const reopened = new Set(closesAgain.map(({ id }) => id));
  const hanging = linksOf(index).find(
    ({ from, to }) =>
      reopened.has(from.id) && !reopened.has(to.id) && isClosed(to) && (to.endedAt ?? '') >= (from.endedAt ?? ''),
  );
  if (hanging) throw never('follows', `${stepLabel(index, hanging.to)} was done after it: take that back first.`);
}

async function undo(ctx: Context, change: Change): Promise<void> {
  if (change.op === 'update') {
    const row = await ctx.find<{ id: Id; version: number }>(change.table, change.id);
    await ctx.update(change.table as TableName, row!, change.before as never);
    return;
  }
  try {
    if (change.table === 'pulls')
      await ctx.store.db.query('DELETE FROM pull_cast WHERE pullId = ?', {
        replacements: [change.id],
        transaction: ctx.tx,
      });
    await ctx.remove(change.table, change.id);
  } catch (error) {
    if (errnoOf(error) === 1451)
      throw new Problem('refused', 'Something that was recorded later hangs on it; take that back first.', {
        rule: 'follows',
        mayOverride: false,
      });
    throw error;
  }
}
