import type {
  BookedHeat,
  ChargeLine,
  ClosedHeat,
  Heat,
  HeatBook,
  HeatReading,
  Id,
  Pouring,
  ShopSettings,
  TaughtFigure,
} from '@kalvet/core';
import { alloyOf, coolingPerMinOf, crucibleLossOf, instantAt, learnFurnace, minutesBetween } from '@kalvet/core';
import { Op } from 'sequelize';
import { rowsOf } from '../db/rows.ts';
import type { Server } from '../http/request.ts';
import { changeNumber } from '../live/changes.ts';
import { settingsOf } from '../people/settings.ts';
import type { Store } from '../write/store.ts';
import { treesCame } from './trees-came-read.service.ts';

/** A furnace without a charge for so long is cold, minutes. */
const COLD_AFTER_MIN = 240;
/** Heats that teach: the newest. */
const TEACH = 60;

const sum = (values: readonly number[]) => values.reduce((total, each) => total + each, 0);

/** The heats of a year that are over or running, and what heats teach. */
export async function heatBook({ store, now }: Server, asked: number | undefined): Promise<HeatBook> {
  const [change, settings, all, [version]] = await Promise.all([
    changeNumber(store),
    settingsOf(store),
    rowsOf<Heat>(store, 'heats', { startedAt: { [Op.ne]: null } }),
    rowsOf<{ value: number }>(store, 'counters', { name: 'settings' }),
  ]);
  const yearOf = (at: string) => Number(at.slice(0, 4));
  const year = asked ?? yearOf(now());
  const from = instantAt({ day: `${year}-01-01`, hour: 0, minute: 0 }, settings.timeZone);
  const to = instantAt({ day: `${year + 1}-01-01`, hour: 0, minute: 0 }, settings.timeZone);
  const own = all.filter(({ startedAt }) => startedAt! >= from && startedAt! < to);
  return {
    change,
    year,
    years: [...new Set([...all.map(({ startedAt }) => yearOf(startedAt!)), yearOf(now())])].sort(),
    heats: await booked(store, own),
    taught: taughtBy(await closedHeats(store, all), settings),
    settingsVersion: version?.value ?? 0,
  };
}

async function booked(store: Store, heats: readonly Heat[]): Promise<BookedHeat[]> {
  const heatId = heats.map(({ id }) => id);
  const [pourings, lines] = await Promise.all([
    rowsOf<Pouring>(store, 'pourings', { heatId }),
    rowsOf<ChargeLine>(store, 'chargeLines', { heatId }),
  ]);
  const came = await treesCame(
    store,
    pourings.map(({ treeId }) => treeId),
  );
  return heats
    .map((heat): BookedHeat => {
      const { id, number, alloyId, state, startedAt, pigKg, energyKwh } = heat;
      const own = pourings.filter((each) => each.heatId === id);
      const charged = lines.filter((each) => each.heatId === id);
      const off = own.filter(({ treeId, pouredKg }) => came.has(treeId) && pouredKg !== null);
      return {
        id,
        number,
        alloyId,
        state,
        at: startedAt!,
        trees: own.length,
        troubled: own.filter(({ outcome }) => outcome !== null && outcome !== 'poured').length,
        chargeKg: sum(charged.map(({ kg }) => kg)),
        returnsKg: sum(charged.filter(({ what }) => what === 'returns').map(({ kg }) => kg)),
        pouredKg: sum(own.map(({ pouredKg }) => pouredKg ?? 0)),
        pigKg,
        castsKg: off.length === 0 ? null : sum(off.map(({ treeId }) => came.get(treeId)!.castsKg)),
        castsPouredKg: sum(off.map(({ pouredKg }) => pouredKg!)),
        energyKwh,
      };
    })
    .sort((a, b) => b.at.localeCompare(a.at));
}

/** The newest heats that are over, as far as they teach of the furnace. */
async function closedHeats(store: Store, all: readonly Heat[]): Promise<ClosedHeat[]> {
  const inTime = [...all].sort((a, b) => a.startedAt!.localeCompare(b.startedAt!));
  const over = inTime.filter(({ state }) => state === 'done').slice(-TEACH);
  const heatId = over.map(({ id }) => id);
  const [readings, pourings, lines] = await Promise.all([
    rowsOf<HeatReading>(store, 'heatReadings', { heatId, voidReason: null }),
    rowsOf<Pouring>(store, 'pourings', { heatId }),
    rowsOf<ChargeLine>(store, 'chargeLines', { heatId }),
  ]);
  const of = <T extends { readonly heatId: Id }>(rows: readonly T[], id: Id) => rows.filter((row) => row.heatId === id);
  return over.map(({ id, alloyId, startedAt, energyKwh }) => {
    const before = inTime.filter((other) => other.startedAt! < startedAt!).at(-1);
    return {
      alloy: alloyOf(alloyId),
      chargeKg: sum(of(lines, id).map(({ kg }) => kg)),
      energyKwh,
      cold: !before || minutesBetween(before.startedAt!, startedAt!) > COLD_AFTER_MIN,
      readings: [
        ...of(readings, id).map(({ at, celsius, where, means }) => ({ at, celsius, where, byEye: means === 'eye' })),
        // What was read with the pour stands in the pouring itself.
        ...of(pourings, id).flatMap(({ startedAt: at, metalC, tempWhere }) =>
          at !== null && metalC !== null
            ? [{ at, celsius: metalC, where: (tempWhere ?? 'cup') as HeatReading['where'], byEye: false }]
            : [],
        ),
      ],
    };
  });
}

/** What heats taught, in the units of the settings. */
function taughtBy(heats: readonly ClosedHeat[], settings: ShopSettings): TaughtFigure[] {
  const { crucibleLossK, transferK, furnaceEfficiency, furnaceKw, liningMinutes } = settings;
  const usual = { coolingPerMin: coolingPerMinOf(crucibleLossK), efficiency: furnaceEfficiency };
  const found = learnFurnace(heats, usual);
  const line = (
    key: TaughtFigure['key'],
    now: number,
    learned: { readonly value: number; readonly spread: number; readonly n: number } | undefined,
    factor: number,
  ): TaughtFigure[] =>
    learned ? [{ key, now, learned: learned.value * factor, spread: learned.spread * factor, n: learned.n }] : [];
  return [
    ...line('crucibleLossK', crucibleLossK, found.coolingPerMin, crucibleLossOf(1)),
    ...line('transferK', transferK, found.transferK, 1),
    ...line('furnaceEfficiency', furnaceEfficiency, found.efficiency, 1),
    ...line('liningMinutes', liningMinutes, found.liningKwh, 60 / furnaceKw),
  ];
}
