import type { DayAnswer, FloorAnswer, Id, NextStep, PieceProjection } from '@kalvet/core';
import { addMinutes } from '@kalvet/core';
import { DateTime } from 'luxon';
import { Op } from 'sequelize';
import type { Server } from '../http/request.ts';
import { settingsOf } from '../people/settings.ts';
import type { MouldStored } from '../shop/stored.ts';
import { stored } from '../shop/stored.ts';
import { floor } from '../work/floor.service.ts';
import type { Store } from '../write/store.ts';
import { dayLine } from './day-line.ts';
import type { PlannedUntil } from './later-today.ts';
import { laterToday, plannedUntil } from './later-today.ts';
import { plannedLoads } from './plan-page.service.ts';
import { plannedDates } from './read-plan.ts';
import { visitLines } from './visits.ts';
import { timetable } from './timetable.ts';

/** Loads and heats this far ahead are on the timetable. */
const TIMETABLE_DAYS = 3;

/**
 * The day a sheet is for: the one asked for, else today; once nothing more is planned for today, the next day with work.
 */
async function sheetDay(
  { store, now }: Server,
  planId: Id | null,
  zone: string,
  asked: string | undefined,
): Promise<DateTime> {
  const today = DateTime.fromISO(now(), { zone }).startOf('day');
  if (asked) return DateTime.fromISO(asked, { zone });
  const [row] = await store.models.plannedSteps.findAll({
    where: { planId, startsAt: { [Op.gte]: now() } },
    attributes: ['startsAt'],
    order: [['startsAt', 'ASC']],
    limit: 1,
    raw: true,
  });
  const next = (row as unknown as { startsAt: Date } | undefined)?.startsAt;
  return next ? DateTime.fromJSDate(next, { zone }).startOf('day') : today;
}

/** A day by room: what can be done, what comes due, what is overdue, when to light what. */
export async function daySheet(server: Server, asked?: string): Promise<DayAnswer> {
  const { store, now } = server;
  const [shop, settings, moulds] = await Promise.all([
    floor(server),
    settingsOf(store),
    stored<MouldStored>(store, 'mould'),
  ]);
  const steps = nextSteps(shop, [...moulds.values()]);
  const [day, planned] = await Promise.all([
    sheetDay(server, shop.plan.planId, settings.timeZone, asked),
    plannedLoads(store, shop.plan.planId),
  ]);
  const dayEnd = day.plus({ days: 1 }).toUTC().toISO()!;
  const today = await plannedUntil(store, shop.plan.planId, dayEnd);
  for (const [id, found] of await firstSteps(store, shop, today)) steps.set(id, found);
  const ids = [...steps.keys()];
  const [versions, dates] = await Promise.all([versionsOf(store, ids), plannedDates(store, shop.plan.planId, ids)]);
  const late = new Set(shop.works.flatMap(({ pieces }) => pieces.filter((piece) => piece.late).map(({ id }) => id)));
  const lines = [...steps].map(([id, { step, pieceIds }]) =>
    dayLine(step, { version: versions.get(id) ?? 1, dates: dates.get(id), pieceIds, late, after: false }),
  );
  const later = await laterToday(store, today, lines, late, settings.liftLimitKg);
  const loads = planned.filter(({ startsAt }) => startsAt <= addMinutes(now(), TIMETABLE_DAYS * 1440));
  return {
    change: shop.change,
    now: now(),
    today: shop.today,
    day: day.toISODate()!,
    dayEnd,
    plan: shop.plan,
    lines: [...lines, ...later],
    questions: shop.questions,
    timetable: timetable(
      shop.heats,
      loads,
      settings,
      planned.flatMap(({ kind, startsAt }) => (kind === 'heat' ? [startsAt] : [])),
    ),
    heats: shop.heats,
    loads,
    visits: await visitLines(store, day.toISODate()!, day.toISODate()!),
  };
}

interface Found {
  readonly step: NextStep;
  readonly pieceIds: Id[];
}

/** Every step that is next on something, once, with the pieces it is for. */
function nextSteps(shop: FloorAnswer, moulds: readonly MouldStored[]): Map<Id, Found> {
  const found = new Map<Id, Found>();
  const add = (step: NextStep, pieceIds: readonly Id[]) => {
    const known = found.get(step.stepId);
    if (!known) found.set(step.stepId, { step, pieceIds: [...pieceIds] });
    else for (const id of pieceIds) if (!known.pieceIds.includes(id)) known.pieceIds.push(id);
  };
  for (const { pieces } of shop.works) for (const piece of pieces) for (const step of piece.next) add(step, [piece.id]);
  for (const each of [...shop.dips, ...shop.fire, ...shop.pour]) add(each, each.pieceIds);
  for (const { next, pieceId } of moulds) if (next) add(next, pieceId ? [pieceId] : []);
  return found;
}

/** First steps of pieces that are not begun, where they are planned by the day's end: a wax to be pulled. */
async function firstSteps(store: Store, shop: FloorAnswer, today: PlannedUntil): Promise<Map<Id, Found>> {
  const ids = shop.works.flatMap(({ notBegun }) => notBegun.map(({ id }) => id));
  const found = new Map<Id, Found>();
  if (today.size === 0) return found;
  for (const [pieceId, { next }] of await stored<PieceProjection>(store, 'piece', ids))
    for (const step of next) if (today.has(step.stepId)) found.set(step.stepId, { step, pieceIds: [pieceId] });
  return found;
}

async function versionsOf({ models }: Store, ids: readonly Id[]): Promise<Map<Id, number>> {
  const rows = await models.steps.findAll({ where: { id: ids }, attributes: ['id', 'version'], raw: true });
  return new Map((rows as unknown as { id: Id; version: number }[]).map(({ id, version }) => [id, version]));
}
