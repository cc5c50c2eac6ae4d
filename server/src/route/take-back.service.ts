import type { Id, ShopIndex, Subject, TakeBack, Text, Verb } from '@kalvet/core';
import {
  TAKEN_BACK,
  isClosed,
  isOpen,
  keptReadings,
  kindOf,
  linksOf,
  mayDo,
  never as rule,
  say,
  stepLabel,
} from '@kalvet/core';
import type { TableName } from '../db/tables.ts';
import { Op } from 'sequelize';
import { lockShop } from '../shop/locked.ts';
import { worksOf } from '../shop/works-of.ts';
import type { Change, Context } from '../write/context.ts';
import { mayNot } from '../people/who.ts';
import { Problem, notFound, refused } from '../write/problem.ts';
import { errnoOf } from '../write/errno.ts';

interface Concerned {
  readonly subject: Id;
  readonly kind: Subject;
}

interface EventRow {
  readonly number: number;
  readonly verb: Verb;
  readonly text: string;
  readonly says: Text | null;
  readonly actorId: Id | null;
  readonly changes: readonly Change[];
  readonly takenBackBy: number | null;
}

/**
 * Takes a wrong record back: everything it changed is as before, everything it made is gone, and both it and the taking
 * back stay in the history. Refused as long as something done hangs on it, naming what must be taken back first.
 */
export async function takeBack(ctx: Context, number: number, given: TakeBack): Promise<{ takenBack: number }> {
  ctx.may('take back');
  const [event] = await ctx.rows<EventRow>('events', { number }, { lock: true });
  if (!event) throw notFound('record');
  // A hand mends their own records; what others recorded is for those who lead.
  if (event.actorId !== ctx.actor?.id && !mayDo(ctx.actor, 'insert step'))
    throw mayNot(ctx.actor?.name ?? 'Nobody', 'insert step');
  if (event.takenBackBy !== null) throw never('closed', 'This record is taken back already.');
  if (!TAKEN_BACK.has(event.verb)) throw never('state', 'This cannot be taken back; change it instead.');
  const subjects = await ctx.rows<Concerned>('eventSubjects', { number });
  const workIds = await worksOfSubjects(ctx, subjects);
  const pieceIds = subjects.filter(({ kind }) => kind === 'piece').map(({ subject }) => subject);
  const index = workIds.length > 0 ? await lockShop(ctx, workIds, { alsoPieces: pieceIds }) : undefined;
  const { changes } = event;

  const rows = new Map<Id, Record<string, unknown> | undefined>();
  for (const { table, id } of changes)
    if (!rows.has(id)) rows.set(id, await ctx.find<Record<string, unknown>>(table, id, true));
  for (const change of changes) await refuseIfChangedSince(ctx, event, change, rows.get(change.id), changes);
  if (index) refuseIfFollowed(index, changes);

  for (const change of [...changes].reverse()) await undo(ctx, change);
  const made = changes.filter(({ op }) => op === 'insert').map(({ id }) => id);
  if (made.length > 0) await ctx.store.models.projections.destroy({ where: { id: made }, transaction: ctx.tx });

  for (const { subject, kind } of subjects) ctx.concern(kind, subject);
  ctx.event = { verb: 'take back', text: say`Taken back: ${event.says ?? event.text}`, reason: given.reason };
  ctx.onKept = async (by) => {
    await ctx.store.models.events.update({ takenBackBy: by }, { where: { number }, transaction: ctx.tx });
  };
  return { takenBack: number };
}

/** Every work that the event touched, whatever it named: a piece, a cast, a tree or a mould belongs to one. */
async function worksOfSubjects(ctx: Context, subjects: readonly Concerned[]): Promise<Id[]> {
  const found = new Set<Id>();
  for (const { subject, kind } of subjects) {
    if (kind === 'work' || kind === 'piece' || kind === 'cast' || kind === 'tree' || kind === 'mould')
      for (const id of await worksOf(ctx.store, kind, subject, ctx.tx)) found.add(id);
  }
  return [...found];
}

const never = (name: 'closed' | 'state' | 'follows', message: Text) => refused([rule(name, message)]);

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
      : last !== change || Object.entries(change.after ?? {}).every(([key, value]) => same(row, key, value)));
  if (untouched) return;
  const later = (
    await ctx.rows<EventRow>(
      'events',
      {
        number: { [Op.gt]: event.number },
        takenBackBy: null,
        verb: { [Op.ne]: 'take back' },
        changes: { [Op.like]: `%${change.id}%` },
      },
      { order: [['number', 'DESC']] },
    )
  )[0];
  throw never(
    'follows',
    later ? say`Take this back first: ${later.says ?? later.text}.` : 'What this record made has been changed since.',
  );
}

/** Whether a field is still as the record left it. Readings that have moved to a row of their own since do not count. */
function same(row: Record<string, unknown>, key: string, value: unknown): boolean {
  const kept = (given: unknown) =>
    key === 'readings' && typeof row['kind'] === 'string'
      ? keptReadings(kindOf(row['kind']), (given ?? {}) as Record<string, unknown>)
      : (given ?? null);
  return JSON.stringify(kept(row[key])) === JSON.stringify(kept(value));
}

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
  if (hanging) throw never('follows', say`${stepLabel(index, hanging.to)} was done after it: take that back first.`);
}

async function undo(ctx: Context, change: Change): Promise<void> {
  if (change.op === 'update') {
    const row = await ctx.find<{ id: Id; version: number }>(change.table, change.id);
    await ctx.update(change.table as TableName, row!, change.before as never);
    return;
  }
  try {
    if (change.table === 'pulls')
      await ctx.store.models.pullCasts.destroy({ where: { pullId: change.id }, transaction: ctx.tx });
    await ctx.remove(change.table, [change.id]);
  } catch (error) {
    if (errnoOf(error) === 1451)
      throw new Problem('refused', 'Something that was recorded later hangs on it; take that back first.', {
        rule: 'follows',
        mayOverride: false,
      });
    throw error;
  }
}
