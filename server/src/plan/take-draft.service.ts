import type { Calendar, Draft, DraftChange, Id, Mould, Piece, Resource, Staffing, TakeDraft } from '@kalvet/core';
import { nextName, openOn, say, shutOn, staffingOf } from '@kalvet/core';
import { Op } from 'sequelize';
import { addMould } from '../work/change-work.service.ts';
import { saveOrder } from '../work/order.service.ts';
import * as pieces from '../work/piece.service.ts';
import { setUpWork } from '../work/work.service.ts';
import type { Context } from '../write/context.ts';
import { Problem, invalid, notFound } from '../write/problem.ts';
import { allWords, judgeOpen } from './drafts.service.ts';
import { IDLE_VERBS } from './idle-verbs.ts';
import { saveCalendar } from './planning.service.ts';

/**
 * Takes a draft over: what it changes is changed, by the same writes as anywhere else and all or nothing; the plan follows by
 * itself. Where the shop has moved on since its dates were worked out, somebody looks at them again first.
 */
export async function takeDraft(ctx: Context, id: Id, { version, basis, order }: TakeDraft): Promise<{ id: Id }> {
  ctx.may('take draft');
  const draft = judgeOpen(await ctx.claim<Draft>('drafts', id, version, 'draft'));
  await judgeBasis(ctx, basis);
  const words = await allWords(ctx.store, draft.changes);
  const pieceIds: Id[] = [];
  for (const [place, change] of draft.changes.entries())
    pieceIds.push(...(await make(ctx, change, `changes.${place}`, draft.name)));
  if (order) {
    if (pieceIds.length === 0) throw invalid({ order: 'nothing in this draft is asked for' });
    await saveOrder(ctx, { ...order, version: 0, place: '', partDelivery: false, note: '', pieceIds });
  }
  await ctx.update('drafts', draft, { state: 'taken' });
  // Several works may have been changed, each read by itself: what is kept ready is worked out from all of them.
  ctx.shop = undefined;
  ctx.event = { verb: 'take draft', text: say`Draft of a plan “${draft.name}” taken over: ${words}` };
  return { id };
}

/** Two who plan at once: the second is told. */
async function judgeBasis({ store, tx }: Context, basis: number): Promise<void> {
  const since = await store.models.events.findAll({
    where: { number: { [Op.gt]: basis }, verb: { [Op.notIn]: IDLE_VERBS } },
    attributes: ['text'],
    order: [['number', 'DESC']],
    limit: 1,
    raw: true,
    transaction: tx,
  });
  const [newest] = since as unknown as { text: string }[];
  if (newest)
    throw new Problem(
      'stale',
      `The shop has moved on since these dates were worked out (${newest.text}). They are worked out anew: look at them, then take the draft over.`,
    );
}

/** Makes one change; gives the pieces that came with it. */
async function make(ctx: Context, change: DraftChange, path: string, draft: string): Promise<readonly Id[]> {
  switch (change.kind) {
    case 'open day':
    case 'closed day': {
      const before = await ctx.find<Calendar>('calendars', change.calendarId, true);
      if (!before) throw notFound('calendar');
      const after = change.kind === 'open day' ? openOn(before, change.date) : shutOn(before, change.date);
      if (!after) throw invalid({ [path]: `${before.name}: it is so on that day already` });
      await saveCalendar(ctx, after);
      return [];
    }
    case 'count': {
      ctx.may('change settings');
      const before = await ctx.find<Resource>('resources', change.resourceId, true);
      if (!before) throw notFound('entry');
      await ctx.update('resources', before, { count: change.count });
      return [];
    }
    case 'hands': {
      ctx.may('change staffing');
      if (!(await ctx.find<Resource>('resources', change.resourceId))) throw notFound('entry');
      await ctx.insert<Staffing>('staffing', [staffingOf(change, ctx.newId())]);
      return [];
    }
    case 'mould': {
      const like = await ctx.find<Mould>('moulds', change.mouldId);
      if (!like) throw notFound('mould');
      const sectionIds = (await ctx.rows<{ sectionId: Id }>('mouldSections', { mouldId: like.id })).map(
        ({ sectionId }) => sectionId,
      );
      const beside = await ctx.rows<Mould>('moulds', { workId: like.workId });
      await addMould(ctx, like.workId, { id: ctx.newId(), name: nextName(like.name, beside), sectionIds });
      return [];
    }
    case 'due':
    case 'priority':
    case 'hold': {
      const piece = await ctx.find<Piece>('pieces', change.pieceId);
      if (!piece) throw notFound('piece');
      if (change.kind === 'due')
        await pieces.changePiece(ctx, piece.id, { version: piece.version, dueDate: change.dueDate });
      else if (change.kind === 'priority') {
        const { version, dueDate } = piece;
        await pieces.changePiece(ctx, piece.id, { version, dueDate, priority: change.priority });
      } else {
        const { until, shells } = change;
        await pieces.hold(ctx, piece.id, { version: piece.version, reason: draft, until, shells });
      }
      return [];
    }
    case 'lost cast':
      throw invalid({ [path]: 'a loss is recorded where it happens, at the cast: take this line out' });
    case 'enquiry':
      return (await setUpWork(ctx, { ...change.work, id: ctx.newId() })).pieceIds;
  }
}
