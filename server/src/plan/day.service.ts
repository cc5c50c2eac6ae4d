import type {
  DayAnswer,
  DayLine,
  FireTime,
  FloorAnswer,
  HeatLine,
  Id,
  NextStep,
  PlannedLoad,
  ShopSettings,
  Step,
  Text,
} from '@kalvet/core';
import {
  DEFAULT_ALLOY_ID,
  EMPTY_SHOP,
  addMinutes,
  alloyOf,
  counted,
  indexShop,
  kg as kilograms,
  kindOf,
  meltMinutes,
  say,
  stepName,
  toMs,
} from '@kalvet/core';
import { DateTime } from 'luxon';
import { Op } from 'sequelize';
import { rowsOf } from '../db/rows.ts';
import type { MouldStored } from '../shop/stored.ts';
import { stored } from '../shop/stored.ts';
import { floor } from '../work/floor.service.ts';
import type { Store } from '../write/store.ts';
import type { Server } from '../http/request.ts';
import { settingsOf } from '../people/settings.ts';
import { plannedLoads } from './plan-page.service.ts';
import type { Dates } from '@kalvet/core';
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
  through: kindOf(step.kind).through ?? null,
  plannedStart: dates?.startsAt ?? null,
  plannedEnd: dates?.endsAt ?? null,
  load: dates?.load ?? null,
  pieceIds,
  late: pieceIds.some((id) => late.has(id)),
  after,
});

async function versionsOf({ models }: Store, ids: readonly Id[]): Promise<Map<Id, number>> {
  const rows = await models.steps.findAll({ where: { id: ids }, attributes: ['id', 'version'], raw: true });
  return new Map((rows as unknown as { id: Id; version: number }[]).map(({ id, version }) => [id, version]));
}

interface PlannedRow {
  readonly stepId: Id;
  readonly startsAt: string;
  readonly endsAt: string;
  readonly load_: string | null;
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
  const known = new Set(lines.map(({ stepId }) => stepId));
  const planned = (await rowsOf<PlannedRow>(store, 'plannedSteps', { planId, startsAt: { [Op.lt]: dayEnd } })).filter(
    ({ stepId }) => !known.has(stepId),
  );
  const found = await rowsOf<Step>(store, 'steps', { id: planned.map(({ stepId }) => stepId), state: 'planned' });
  const wanted = found.filter(({ carrierId }) => carriers.has(carrierId));
  // How a coat is called goes by how many there are: its tree's steps are read with it.
  const trees = wanted.filter(({ carrier }) => carrier === 'tree').map(({ carrierId }) => carrierId);
  const index = indexShop({
    ...EMPTY_SHOP,
    steps: [...wanted, ...(await rowsOf<Step>(store, 'steps', { treeId: trees }))],
  });
  const dates = new Map(planned.map((row) => [row.stepId, row]));
  return wanted
    .map((step) => {
      const before = carriers.get(step.carrierId)!;
      const { startsAt, endsAt, load_ } = dates.get(step.id)!;
      const next: NextStep = {
        stepId: step.id,
        kind: step.kind,
        name: stepName(index, step),
        on: before.on,
        carrier: step.carrier,
        carrierId: step.carrierId,
        room: kindOf(step.kind).room,
        state: 'planned',
        waits: [before.name],
        held: false,
        readyAt: null,
        tooOldAt: null,
      };
      const late = new Set(before.late ? before.pieceIds : []);
      const beside = { dates: { startsAt, endsAt, load: load_ }, pieceIds: before.pieceIds, late, after: true };
      return line(next, { version: step.version, ...beside });
    })
    .sort((a, b) => (a.plannedStart ?? '').localeCompare(b.plannedStart ?? ''));
}

/** Firings, melts and pours in the order of the clock; a melt's beginning counts back from its pour. */
function timetable(heats: readonly HeatLine[], loads: readonly PlannedLoad[], settings: ShopSettings): FireTime[] {
  const furnace = { powerKw: settings.furnaceKw, efficiency: settings.furnaceEfficiency };
  const pours = heats
    .filter(({ plannedFor, state }) => plannedFor !== null && state !== 'running')
    .flatMap((heat) =>
      meltAndPour(heat.plannedFor!, `H-${heat.number}`, heat.alloyId, heat.chargeKg, heat.trees.length, false),
    );
  const inHeats = new Set(heats.filter(({ plannedFor }) => plannedFor).map(({ plannedFor }) => plannedFor));
  const planned = loads.flatMap((load) => {
    if (load.kind === 'kiln')
      return [
        {
          at: load.startsAt,
          what: 'Fire the kiln',
          text: `${counted(load.count, 'tree')}: ${load.labels.join(', ')}`,
          planned: true,
          why: 'as the plan has it',
          stepId: null,
        },
      ];
    // A heat that somebody planned is on the list by its own number.
    return inHeats.has(load.startsAt)
      ? []
      : meltAndPour(load.startsAt, 'heat', load.alloyId ?? DEFAULT_ALLOY_ID, load.kg ?? 0, load.count, true);
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
    const text: Text = say`${name}: ${kilograms(kg, 0)} ${alloy.name}, ${counted(trees, 'tree')}`;
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
