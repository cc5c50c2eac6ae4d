import type { Day, Heat, HeatView, Id, PitPlaceView, PourDayAnswer } from '@kalvet/core';
import {
  addDays,
  addMinutes,
  crucibleWayM,
  dayIn,
  instantAt,
  pitPlaces,
  pourDay,
  setInPit,
  withoutKilnPlace,
} from '@kalvet/core';
import { Op } from 'sequelize';
import { rowsOf } from '../db/rows.ts';
import type { Server } from '../http/request.ts';
import { changeNumber } from '../live/changes.ts';
import { settingsOf } from '../people/settings.ts';
import { pourDays } from '../plan/open-days.ts';
import { plannedLoads } from '../plan/plan-page.service.ts';
import { currentPlan } from '../plan/read-plan.ts';
import { heatFigures } from './heat-figures.ts';
import { openHeats } from './heat-read.service.ts';
import { pitTaken } from './pit-read.service.ts';

const AHEAD_DAYS = 28;
/** From the end of its window on a shell is too cold; it is taken out so that its metal comes in the middle of it. */
const MIDDLE = 0.5;
const LOOK_AFTER_MIN = 45;

/** A pour day: today's or the next one with a heat, unless another is asked for. */
export async function pourDayPage({ store, now }: Server, asked: Day | undefined): Promise<PourDayAnswer> {
  const [change, settings] = await Promise.all([changeNumber(store), settingsOf(store)]);
  const { timeZone } = settings;
  const today = dayIn(now(), timeZone);
  const from = instantAt({ day: addDays(today, -AHEAD_DAYS), hour: 0, minute: 0 }, timeZone);
  const rows = await rowsOf<Heat>(store, 'heats', { plannedFor: { [Op.gte]: from }, state: { [Op.ne]: 'abandoned' } });
  const withHeats = [...new Set(rows.map(({ plannedFor }) => dayIn(plannedFor!, timeZone)))].sort();
  const day = asked ?? withHeats.find((each) => each >= today) ?? withHeats.at(-1) ?? today;
  const ids = rows.filter(({ plannedFor }) => dayIn(plannedFor!, timeZone) === day).map(({ id }) => id);
  const open = ids.length === 0 ? [] : await openHeats(store, ids);
  const figures = await heatFigures(store, { heats: open });
  const heats = open.map(figures.view).sort((a, b) => a.plannedFor!.localeCompare(b.plannedFor!));
  const inHeats = new Set((await openHeats(store)).flatMap(({ pourings }) => pourings.map(({ treeId }) => treeId)));
  const stretches = pourDay(
    heats.map((heat) => ({
      heatId: heat.id,
      label: `H-${heat.number}`,
      pourAt: heat.startedAt ?? heat.plannedFor!,
      lightAt: heat.litAt ?? heat.lightAt ?? heat.plannedFor!,
      meltMinutes: heat.melt.value,
      trees: heat.pourings.map(({ treeId, label }) => {
        const out = heat.kilnOut[treeId];
        return {
          treeId,
          label,
          shellMm: out?.wallMm ?? null,
          outS: out ? out.fromS + (out.toS - out.fromS) * MIDDLE : 0,
        };
      }),
    })),
    { ...settings, lookAfterMinutes: LOOK_AFTER_MIN },
  );
  return {
    change,
    now: now(),
    day,
    days: [
      ...new Set([
        ...withHeats,
        ...(await pourDays(store, today, dayIn(addMinutes(now(), AHEAD_DAYS * 1440), timeZone))),
      ]),
    ].sort(),
    heats,
    planned: (await plannedLoads(store, (await currentPlan(store)).stand.planId)).filter(
      ({ kind, startsAt, treeIds }) =>
        kind === 'heat' && dayIn(startsAt, timeZone) === day && !treeIds.some((id) => inHeats.has(id)),
    ),
    stretches,
    noKiln: [...withoutKilnPlace(stretches, settings.kilnPlaces)],
    ...(await pitOf(store, heats, settings)),
  };
}

/** The bed with what stands in it, where the day's trees would be set, and how far the crucible goes. */
async function pitOf(
  store: Server['store'],
  heats: readonly HeatView[],
  settings: { readonly pitPlaces: number; readonly pitAcross: number; readonly pitPitchMm: number },
): Promise<Pick<PourDayAnswer, 'pit' | 'wouldSet' | 'wayM'>> {
  const { pitPlaces: places, pitAcross: across, pitPitchMm: pitchMm } = settings;
  const bed = pitPlaces({ places, across, pitchMm });
  const taken = await pitTaken(store);
  const own = new Map<
    Id,
    { readonly order: number; readonly label: string; readonly place: number | null; readonly done: boolean }
  >(
    heats.flatMap(({ pourings }) =>
      pourings.map(
        ({ treeId, order, label, place, outcome }) =>
          [treeId, { order, label, place, done: outcome !== null }] as const,
      ),
    ),
  );
  const pit = bed.map((place): PitPlaceView => {
    const found = taken.get(place.number);
    const mine = found && own.get(found.treeId);
    return {
      ...place,
      treeId: found?.treeId ?? null,
      label: mine?.label ?? found?.label ?? '',
      stands: !found ? 'free' : found.poured ? 'poured' : mine ? 'set' : 'other',
      order: mine?.order ?? null,
    };
  });
  const wouldSet: Record<Id, number> = {};
  const full = new Set(taken.keys());
  for (const { pourings } of heats) {
    const waiting = pourings.filter(({ treeId, outcome }) => outcome === null && own.get(treeId)!.place === null);
    for (const [id, place] of setInPit(
      waiting.map(({ treeId }) => treeId),
      places,
      full,
    )) {
      wouldSet[id] = place;
      full.add(place);
    }
  }
  const placeOf = (treeId: Id) => own.get(treeId)?.place ?? wouldSet[treeId] ?? null;
  const wayM = Object.fromEntries(
    heats.map(({ id, pourings }) => [
      id,
      crucibleWayM(pourings.flatMap(({ treeId }) => bed.find(({ number }) => number === placeOf(treeId)) ?? [])),
    ]),
  );
  return { pit, wouldSet, wayM };
}
