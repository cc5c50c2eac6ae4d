import type { Text } from '../units/words.ts';
import { say } from '../units/words.ts';
import { localMoments } from '../units/local-moments.ts';
import type { KilnReading } from './held-minutes.ts';

/** What a kiln's data logger wrote: each thermocouple's readings by its name. */
export interface KilnFile {
  readonly couples: readonly { readonly channel: string; readonly readings: readonly KilnReading[] }[];
  readonly notes: readonly Text[];
}

const TIME = /^(date|time|timestamp|at|zeit|datum)/;
const FAHRENHEIT = /°f|fahrenheit|[_ (]f\)?$/;
const HOTTEST_C = 1500;
const CHANNEL_LETTERS = 40;

/**
 * Reads the rows of a kiln's logger: a column of times (or of day and hour), and one of temperatures for each thermocouple, by
 * the name at its head; °F where the head says so.
 * @param rows of cells; @param zone the shop's, for times without one
 */
export function kilnFile(rows: readonly (readonly string[])[], zone: string): KilnFile | { readonly wrong: Text } {
  const small = (cell: string) =>
    cell
      .trim()
      .toLowerCase()
      .replace(/^\ufeff/, '');
  const head = rows.slice(0, 30).findIndex((row) => row.length > 1 && row.some((cell) => TIME.test(small(cell))));
  if (head < 0) return { wrong: 'No line names its columns: time, and one for each thermocouple.' };
  const names = rows[head]!.map(small);
  const times = names.flatMap((name, place) => (TIME.test(name) ? [place] : []));
  const body = rows.slice(head + 1).filter((row) => row.some((cell) => cell.trim() !== ''));
  const { moments } = localMoments(
    body.map((row) => times.map((place) => (row[place] ?? '').trim()).join(' ')),
    zone,
  );
  const notes: Text[] = [];
  const couples = names.flatMap((name, place) => {
    if (TIME.test(name) || name === '') return [];
    const isF = FAHRENHEIT.test(name);
    const readings = body.flatMap((row, i): KilnReading[] => {
      const value = Number((row[place] ?? '').trim().replace(',', '.') || NaN);
      const at = moments[i];
      const celsius = isF ? (value - 32) / 1.8 : value;
      return at && Number.isFinite(celsius) && celsius > -40 && celsius < HOTTEST_C
        ? [{ at, celsius: Math.round(celsius * 10) / 10 }]
        : [];
    });
    if (readings.length === 0) return [];
    if (isF) notes.push(say`${name} is in °F and was converted.`);
    readings.sort((a, b) => (a.at < b.at ? -1 : 1));
    return [{ channel: rows[head]![place]!.trim().slice(0, CHANNEL_LETTERS), readings }];
  });
  if (couples.length === 0) return { wrong: 'No column holds temperatures of a kiln beside times that can be read.' };
  return { couples, notes };
}
