import type {
  DayAnswer,
  DayLine,
  FireTime,
  FloorAnswer,
  HeatLine,
  Id,
  NextStep,
  PlanLoad,
  ShopSettings,
  StepKindCode,
} from '@kalvet/core';
import { STEP_KINDS, addMinutes, alloyOf, meltMinutes, toMs } from '@kalvet/core';
import { DateTime } from 'luxon';
import { QueryTypes } from 'sequelize';
import { asInstant } from '../db/tables.ts';
import { stored } from '../shop/stored.ts';
import { floor } from '../work/floor.service.ts';
import type { MouldStored } from '../work/floor.service.ts';
import type { Store } from '../write/context.ts';
import type { Server } from '../write/request.ts';
import { settingsOf } from '../people/settings.ts';
import { plannedLoads } from './plan-page.service.ts';
import { sqlInstant } from '../write/write.ts';
import type { Dates } from './read-plan.ts';
import { plannedDates } from './read-plan.ts';

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
  const [row] = await store.db.query<{ next: Date | string | null }>(
    'SELECT MIN(startsAt) AS next FROM planned_step WHERE planId = ? AND startsAt >= ?',
    { replacements: [planId, sqlInstant(now())], type: QueryTypes.SELECT },
  );
  return row?.next ? DateTime.fromISO(asInstant(row.next), { zone }).startOf('day') : today;
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
  const ids = [...steps.keys()];
  const [versions, dates, day, planned] = await Promise.all([
    versionsOf(store, ids),
    plannedDates(store, shop.plan.planId, ids),
    sheetDay(server, shop.plan.planId, settings.timeZone, asked),
    plannedLoads(store, shop.plan.planId),
  ]);
  const late = new Set(shop.works.flatMap(({ pieces }) => pieces.filter((piece) => piece.late).map(({ id }) => id)));
  const lines = [...steps].map(([id, { step, pieceIds }]) =>
    line(step, { version: versions.get(id) ?? 1, dates: dates.get(id), pieceIds, late, after: false }),
  );
  const dayEnd = day.plus({ days: 1 }).toUTC().toISO()!;
  const later = await laterToday(store, shop.plan.planId, dayEnd, lines);
  const loads = planned.filter(({ startsAt }) => startsAt <= addMinutes(now(), TIMETABLE_DAYS * 1440));
  return {
    change: shop.change,
    now: now(),
    today: shop.today,
    day: day.toISODate()!,
    dayEnd,
    plan: shop.plan,
    lines: [...lines, ...later],
    decisions: shop.decisions,
    timetable: timetable(shop.heats, loads, settings),
    heats: shop.heats,
    loads,
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

interface Beside {
  readonly version: number;
  readonly dates: Dates | undefined;
  readonly pieceIds: readonly Id[];
  readonly late: ReadonlySet<Id>;
  readonly after: boolean;
}

const line = (step: NextStep, { version, dates, pieceIds, late, after }: Beside): DayLine => ({
  ...step,
  version,
  through: STEP_KINDS[step.kind].through ?? null,
  plannedStart: dates?.startsAt ?? null,
  plannedEnd: dates?.endsAt ?? null,
  load: dates?.load ?? null,
  pieceIds,
  late: pieceIds.some((id) => late.has(id)),
  after,
});

async function versionsOf(store: Store, ids: readonly Id[]): Promise<Map<Id, number>> {
  if (ids.length === 0) return new Map();
  const rows = await store.db.query<{ id: Id; version: number }>('SELECT id, version FROM step WHERE id IN (?)', {
    replacements: [ids],
    type: QueryTypes.SELECT,
  });
  return new Map(rows.map(({ id, version }) => [id, version]));
}

/** What the plan has for today behind the next steps: the third dip of a tree whose second is not done yet. */
async function laterToday(
  store: Store,
  planId: Id | null,
  dayEnd: string,
  lines: readonly DayLine[],
): Promise<DayLine[]> {
  const carriers = new Map(lines.map((each) => [each.carrierId, each]));
  if (planId === null || carriers.size === 0) return [];
  const rows = await store.db.query<{
    id: Id;
    kind: StepKindCode;
    sequence: number;
    carrierId: Id;
    startsAt: Date | string;
    endsAt: Date | string;
    load_: string | null;
    version: number;
  }>(
    `SELECT s.id, s.kind, s.sequence, s.version, COALESCE(s.treeId, s.castId, s.pieceId, s.mouldId) AS carrierId,
            p.startsAt, p.endsAt, p.load_
       FROM planned_step p JOIN step s ON s.id = p.stepId
      WHERE p.planId = :planId AND p.startsAt < :dayEnd AND s.state = 'planned' ORDER BY p.startsAt`,
    { replacements: { planId, dayEnd: sqlInstant(dayEnd) }, type: QueryTypes.SELECT },
  );
  const known = new Set(lines.map(({ stepId }) => stepId));
  return rows
    .filter(({ id, carrierId }) => !known.has(id) && carriers.has(carrierId))
    .map((row) => {
      const before = carriers.get(row.carrierId)!;
      const { name, room, carrier } = STEP_KINDS[row.kind];
      const step: NextStep = {
        stepId: row.id,
        kind: row.kind,
        name: row.kind === 'coat' ? `${name} ${row.sequence}` : name,
        on: before.on,
        carrier,
        carrierId: row.carrierId,
        room,
        state: 'planned',
        waits: [before.name],
        held: false,
        readyAt: null,
        tooOldAt: null,
      };
      const dates = { startsAt: asInstant(row.startsAt), endsAt: asInstant(row.endsAt), load: row.load_ };
      const late = new Set(before.late ? before.pieceIds : []);
      return line(step, { version: row.version, dates, pieceIds: before.pieceIds, late, after: true });
    });
}

/** Firings, melts and pours in the order of the clock; a melt's beginning counts back from its pour. */
function timetable(heats: readonly HeatLine[], loads: readonly PlanLoad[], settings: ShopSettings): FireTime[] {
  const furnace = { powerKw: settings.furnaceKw, efficiency: settings.furnaceEfficiency };
  const pours = heats
    .filter(({ plannedFor, state }) => plannedFor !== null && state !== 'running')
    .flatMap((heat) =>
      meltAndPour(heat.plannedFor!, `H-${heat.number}`, heat.alloyId, heat.metalKg, heat.trees.length, false),
    );
  const inHeats = new Set(heats.filter(({ plannedFor }) => plannedFor).map(({ plannedFor }) => plannedFor));
  const planned = loads.flatMap((load) => {
    if (load.kind === 'kiln')
      return [
        {
          at: load.startsAt,
          what: 'Fire the kiln',
          text: `${load.count} ${load.count === 1 ? 'tree' : 'trees'}: ${load.labels.join(', ')}`,
          planned: true,
          why: 'as the plan has it',
          stepId: null,
        },
      ];
    // A heat that somebody planned is on the list by its own number.
    return inHeats.has(load.startsAt)
      ? []
      : meltAndPour(load.startsAt, 'heat', load.alloyId ?? 'C87300', load.kg ?? 0, load.count, true);
  });
  return [...pours, ...planned].sort((a, b) => toMs(a.at) - toMs(b.at));

  function meltAndPour(
    at: string,
    name: string,
    alloyId: string,
    kg: number,
    trees: number,
    byPlan: boolean,
  ): FireTime[] {
    const alloy = alloyOf(alloyId);
    const melt = meltMinutes(kg, alloy, furnace);
    const text = `${name}: ${kg.toFixed(0)} kg ${alloy.name}, ${trees} ${trees === 1 ? 'tree' : 'trees'}`;
    return [
      {
        at: addMinutes(at, -Math.ceil(melt.value)),
        what: 'Light the furnace',
        text,
        planned: byPlan,
        why: melt.inWords,
        stepId: null,
      },
      { at, what: 'Pour', text, planned: byPlan, why: byPlan ? 'as the plan has it' : 'planned for', stepId: null },
    ];
  }
}
