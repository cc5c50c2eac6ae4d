import type { ClimateReading } from '../records/climate.ts';
import { toMs } from '../units/instant.ts';
import { localMoments } from '../units/local-moments.ts';
import type { Text } from '../units/words.ts';
import { say } from '../units/words.ts';
import { wrongClimate } from './judge-climate.ts';

/** What a data logger's file says of the air. */
export interface ClimateFile {
  readonly readings: readonly ClimateReading[];
  /** What was read differently than it stands there: °F, an hour that came twice. */
  readonly notes: readonly Text[];
  /** Lines that were left out, and why: at most a few, with how many more there are. */
  readonly left: readonly { readonly line: number; readonly why: Text }[];
}

export interface NotReadable {
  readonly wrong: Text;
}

type Column = 'at' | 'date' | 'time' | 'celsius' | 'humidityPercent';

/** How loggers call their columns, in small letters. */
const NAMES: readonly (readonly [Column, RegExp])[] = [
  ['at', /^(date[ -_/]*time|timestamp|at|when|time ?stamp|zeit(punkt)?|datum.*zeit)/],
  ['date', /^(date|day|datum)/],
  ['time', /^(time|uhrzeit|hour)/],
  ['celsius', /(temp|°c|°f|celsius|fahrenheit|deg ?c|deg ?f|^t$)/],
  ['humidityPercent', /(hum|r\.?h\.?|%|feucht)/],
];
const DEW = /dew|wet ?bulb|taupunkt/;
const FAHRENHEIT = /°f|fahrenheit|deg ?f|[_ (]f\)?$/;
const CELSIUS = /°c|celsius|deg ?c|[_ (]c\)?$/;
/** Without a unit, a file whose temperatures all lie here is in °F: no room is so hot, and none so cold. */
const [F_LEAST, F_MOST] = [46, 113];
const MOST_TOLD = 8;

/**
 * Reads the rows of a data logger's file: it finds its columns by their heads, takes °F where the head says so or the values
 * leave no other way, local times in the shop's zone (the hour that comes twice in autumn too), and leaves out what cannot be.
 * @param rows of cells, the heads in one of the first rows; @param zone the shop's
 */
export function climateFile(rows: readonly (readonly string[])[], zone: string): ClimateFile | NotReadable {
  const head = rows.slice(0, 30).findIndex((row) => {
    const found = columnsOf(row);
    return found.celsius !== undefined && found.humidityPercent !== undefined && (found.at ?? found.date) !== undefined;
  });
  if (head < 0)
    return { wrong: 'No line names its columns: time, temperature and humidity (as time; °C; %RH) are looked for.' };
  const columns = columnsOf(rows[head]!);
  const cells = (row: readonly string[], column: Column) => (row[columns[column] ?? -1] ?? '').trim();
  const body = rows.slice(head + 1).map((row, i) => ({ line: head + 2 + i, row }));
  const filled = body.filter(({ row }) => row.some((cell) => cell.trim() !== ''));
  const values = filled.map(({ line, row }) => ({
    line,
    when: columns.at === undefined ? `${cells(row, 'date')} ${cells(row, 'time')}`.trim() : cells(row, 'at'),
    t: numberOf(cells(row, 'celsius')),
    rh: numberOf(cells(row, 'humidityPercent')),
  }));
  const notes: Text[] = [];
  const name = rows[head]![columns.celsius!]!.trim().toLowerCase();
  const known = values.map(({ t }) => t).filter((t) => Number.isFinite(t));
  const couldBeF = known.length > 0 && known.every((t) => t >= F_LEAST && t <= F_MOST);
  const swapped =
    known.length > 0 &&
    known.every((t, i) => t > 25 && (values[i]?.rh ?? 99) < 35 && !FAHRENHEIT.test(name)) &&
    known.some((t) => t > 45);
  if (swapped)
    return {
      wrong: 'Temperature and humidity seem to be swapped: the temperatures lie above 45. Nothing was read in.',
    };
  const isF = FAHRENHEIT.test(name) || (!CELSIUS.test(name) && couldBeF);
  if (CELSIUS.test(name) && couldBeF)
    return {
      wrong: say`The column is headed ${name}, but its values (${known[0]!} …) can only be °F. Nothing was read in; correct the head.`,
    };
  if (isF) notes.push('Temperatures are in °F and were converted.');
  const times = localMoments(
    values.map(({ when }) => when),
    zone,
  );
  if (times.twice > 0)
    notes.push(say`The hour that the clocks go back came twice: ${times.twice} readings lie in the second one.`);
  const left: { line: number; why: Text }[] = [];
  const readings: ClimateReading[] = [];
  values.forEach(({ line, t, rh }, i) => {
    const moment = times.moments[i];
    if (!moment) return left.push({ line, why: 'no time that can be read' });
    const reading = { at: moment, celsius: isF ? (t - 32) / 1.8 : t, humidityPercent: rh };
    const [wrong] = Object.values(wrongClimate(reading));
    if (wrong) return left.push({ line, why: wrong });
    return readings.push({ ...reading, celsius: Math.round(reading.celsius * 100) / 100 });
  });
  if (readings.length === 0)
    return {
      wrong: left[0] ? say`No line could be read; line ${left[0].line}: ${left[0].why}` : 'The file holds no readings.',
    };
  readings.sort((a, b) => toMs(a.at) - toMs(b.at));
  return { readings, notes, left: told(left) };
}

function told(left: readonly { line: number; why: Text }[]): ClimateFile['left'] {
  if (left.length <= MOST_TOLD) return left;
  return [
    ...left.slice(0, MOST_TOLD),
    { line: left[MOST_TOLD]!.line, why: say`and ${left.length - MOST_TOLD} more lines` },
  ];
}

function columnsOf(row: readonly string[]): Partial<Record<Column, number>> {
  const found: Partial<Record<Column, number>> = {};
  row.forEach((cell, place) => {
    const name = cell
      .trim()
      .toLowerCase()
      .replace(/^\ufeff/, '');
    if (name === '' || DEW.test(name)) return;
    const column = NAMES.find(([, is]) => is.test(name))?.[0];
    if (column && found[column] === undefined) found[column] = place;
  });
  // A column called "time" with none for the day beside it holds both.
  const { time, ...rest } = found;
  return found.at === undefined && found.date === undefined && time !== undefined ? { ...rest, at: time } : found;
}

/** A number with a point or a comma; none where it is neither. */
function numberOf(cell: string): number {
  const plain = cell.replace(/[°%\sCFcf]/g, '').replace(',', '.');
  return plain === '' ? NaN : Number(plain);
}
