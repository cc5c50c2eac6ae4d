import type { Day, Id, SaveVisit, Visit, VisitLine } from '@kalvet/core';
import { onDay, say } from '@kalvet/core';
import { Op } from 'sequelize';
import { rowsOf } from '../db/rows.ts';
import type { Context } from '../write/context.ts';
import { invalid } from '../write/problem.ts';
import type { Store } from '../write/store.ts';
import { pourDays } from './open-days.ts';

/** What guests and the crew both have to know. */
const ON_POUR_DAY =
  'A pour day: guests stay behind the line, with eyes and feet covered, and the pour lead says when they come and go.';

/**
 * Visits from a day on, the soonest first, each with what is to be said to it.
 * @param until the last day; without one all that are entered
 */
export async function visitLines(store: Store, from: Day, until?: Day): Promise<VisitLine[]> {
  const day = until === undefined ? { [Op.gte]: from } : { [Op.between]: [from, until] };
  const visits = await rowsOf<Visit>(store, 'visits', { day });
  visits.sort((a, b) => a.day.localeCompare(b.day) || a.from.localeCompare(b.from));
  const last = visits.at(-1)?.day;
  const pours = new Set(last === undefined ? [] : await pourDays(store, from, last));
  return visits.map((visit) => ({ ...visit, caution: pours.has(visit.day) ? ON_POUR_DAY : null }));
}

/** Enters guests, or takes them off again. */
export async function saveVisit(ctx: Context, { version, gone, ...fields }: SaveVisit): Promise<{ id: Id }> {
  ctx.may('save visit');
  if (version === 0) {
    if (await ctx.find('visits', fields.id)) throw invalid({ id: 'this is entered already' });
    await ctx.insert<Visit>('visits', [{ ...fields, version: 1 }]);
  } else {
    const before = await ctx.claim<Visit>('visits', fields.id, version, 'visit', fields);
    if (gone) await ctx.remove('visits', [before.id]);
    else await ctx.update('visits', before, fields);
  }
  const { who, day, from, to } = fields;
  ctx.event = {
    verb: 'save visit',
    text: say`Visit of ${who} on ${onDay(day)}, ${from} to ${to}${gone ? ', taken off' : ''}`,
  };
  return { id: fields.id };
}
