import type { Couple, Id, Instant, KilnRead } from '@kalvet/core';
import { listUnder, minutesBetween } from '@kalvet/core';
import { rowsOf } from '../db/rows.ts';
import type { Store } from '../write/store.ts';

/** Of each thermocouple so many readings are kept at least a minute apart, and so many are drawn. */
const EVERY_MIN = 1;
const DRAWN = 240;
const CHANGE_K = 8;

/** Every thermocouple's readings of a load, in the order of time. */
export async function couplesOf(store: Store, loadId: Id): Promise<Couple[]> {
  const rows = await rowsOf<KilnRead>(store, 'kilnReadings', { loadId });
  const byChannel = new Map<string, { at: Instant; celsius: number }[]>();
  for (const { channel, at, celsius } of rows) listUnder(byChannel, channel, { at, celsius });
  return [...byChannel]
    .sort(([a], [b]) => a.localeCompare(b))
    .map(([channel, readings]) => ({ channel, readings: readings.sort((a, b) => (a.at < b.at ? -1 : 1)) }));
}

/** As many as can be drawn: every so many-th, and the last one. */
export const drawn = (couples: readonly Couple[]): Couple[] =>
  couples.map(({ channel, readings }) => {
    const every = Math.max(1, Math.ceil(readings.length / DRAWN));
    return { channel, readings: readings.filter((_, i) => i % every === 0 || i === readings.length - 1) };
  });

/** Keeps readings of a load that are there not yet; what is hardly older than the one before is left out. */
export async function keepReadings(
  store: Store,
  loadId: Id,
  couples: readonly Couple[],
  tx: Parameters<typeof rowsOf>[3],
) {
  const rows = couples.flatMap(({ channel, readings }) => {
    let last: { at: Instant; celsius: number } | undefined;
    return readings.flatMap((reading) => {
      const isNear =
        last && minutesBetween(last.at, reading.at) < EVERY_MIN && Math.abs(last.celsius - reading.celsius) < CHANGE_K;
      if (isNear) return [];
      last = reading;
      return [{ loadId, channel, at: reading.at, celsius: reading.celsius }];
    });
  });
  const before = await store.models.kilnReadings.count({ where: { loadId }, transaction: tx ?? null });
  for (let start = 0; start < rows.length; start += 500)
    await store.models.kilnReadings.bulkCreate(rows.slice(start, start + 500) as never[], {
      ignoreDuplicates: true,
      transaction: tx ?? null,
    });
  const added = (await store.models.kilnReadings.count({ where: { loadId }, transaction: tx ?? null })) - before;
  return { added, known: rows.length - added };
}
