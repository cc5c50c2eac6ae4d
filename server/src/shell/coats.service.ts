import type { CoatLedger, CoatRow, CoatsAnswer, DryingPlace, Instant, KeptClimate, PlaceAir } from '@kalvet/core';
import { climateAlarms, dryingAir, fromMs, toMs, wetBulbDepression } from '@kalvet/core';
import { changeNumber } from '../live/changes.ts';
import { people } from '../people/person-of.ts';
import { currentPlan, plannedDates } from '../plan/read-plan.ts';
import { treesBeside } from '../shop/stored.ts';
import type { Server } from '../http/request.ts';
import { recentClimate, dryingPlaces } from '../shop/shop-climate.ts';

/** Every tree that is being dipped, with its coats: what is dry, what is too old, and who dipped what when. All of it is kept ready. */
export async function coats({ store, now }: Server): Promise<CoatsAnswer> {
  const change = await changeNumber(store);
  const plan = await currentPlan(store);
  const known = new Map((await people(store)).map(({ id, shortName }) => [id, shortName]));
  const dipping = [...(await treesBeside<CoatLedger>(store, 'shell'))].flatMap(([treeId, { data, beside }]) =>
    data.next && beside ? [{ treeId, next: data.next, pieceIds: data.pieceIds, ledger: beside }] : [],
  );
  const dates = await plannedDates(
    store,
    plan.stand.planId,
    dipping.map(({ next }) => next.stepId),
  );
  const rows = dipping.map(({ treeId, next, pieceIds, ledger }): CoatRow => ({
    treeId,
    label: next.on,
    title: next.title,
    pieceIds,
    readyAt: next.readyAt,
    tooOldAt: next.tooOldAt,
    waits: next.waits,
    plannedStart: dates.get(next.stepId)?.startsAt ?? null,
    ...ledger,
    coats: ledger.coats.map((coat) => ({ ...coat, by: coat.by.map((id) => known.get(id) ?? '?') })),
  }));
  const places = await dryingPlaces(store);
  return {
    change,
    now: now(),
    plan: plan.stand,
    rows: rows.sort((a, b) => (a.readyAt ?? '9').localeCompare(b.readyAt ?? '9')),
    places: await Promise.all(
      places.map(async (place, i) =>
        airOf(
          place,
          await recentClimate(store, place.id, BACK_MIN),
          now(),
          rows.filter(({ hangs }) => (hangs?.placeId ?? places[0]!.id) === place.id || (i === 0 && !hangs)),
        ),
      ),
    ),
  };
}

/** What is shown: two days back, and a day and a half ahead. */
const SHOWN_MIN = 2 * 1440;
const AHEAD_MS = 36 * 3_600_000;
/** What is expected goes by the last three days. */
const BACK_MIN = 4 * 1440;

/** So many readings are drawn; a room that is read every minute has more than a screen has points. */
const DRAWN = 360;
const drawn = (readings: readonly KeptClimate[]): KeptClimate[] => {
  const every = Math.ceil(readings.length / DRAWN);
  return readings.filter((_, i) => i % every === 0 || i === readings.length - 1);
};

function airOf(place: DryingPlace, readings: readonly KeptClimate[], now: Instant, rows: readonly CoatRow[]): PlaceAir {
  const last = readings.at(-1);
  const air = dryingAir(readings);
  const day = drawn(readings.filter(({ at }) => toMs(at) >= toMs(last!.at) - SHOWN_MIN * 60_000));
  const begin = air ? air.ms.findIndex((ms) => ms > air.readUntilMs) : -1;
  const expected =
    air && begin >= 0
      ? air.ms
          .slice(begin)
          .map((ms, i) => ({ at: fromMs(ms), kelvin: Number(air.kelvin[begin + i]!.toFixed(2)), ms }))
          .filter(({ ms }) => ms <= toMs(now) + AHEAD_MS)
      : [];
  return {
    place,
    readings: day,
    kelvin: last ? Number(wetBulbDepression(last.celsius, last.humidityPercent).toFixed(2)) : null,
    expected: expected.map(({ at, kelvin }) => ({ at, kelvin })),
    alarms: climateAlarms(
      day,
      now,
      rows.some(({ coats: all }) => all.some(({ state }) => state === 'done')),
    ),
    trees: rows.length,
  };
}
