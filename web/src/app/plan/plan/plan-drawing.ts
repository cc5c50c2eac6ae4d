import type { Day, PlanAnswer, PlanRow, Room } from '@kalvet/core';
import { ROOMS, daySpans, daysBetween, wallMsOf } from '@kalvet/core';

const DAY_MS = 86_400_000;

/** Where an instant lies on the axis, which is the shop's clock. */
export type Placed = (instant: string) => number;

/** The axis of a shop's zone. */
export const axisOf =
  (zone: string): Placed =>
  (instant) =>
    wallMsOf(instant, zone);

/** Where a day of the shop begins on the axis, and where it ends. */
export const dayBegins = (day: string): number => wallMsOf(`${day}T00:00:00.000Z`, 'utc');
export const dayEnds = (day: string): number => dayBegins(day) + DAY_MS;

/** A year can be looked at, whatever is planned. */
const LEAST_DAYS = 365;

/** Days that follow one another as one stripe; shorter spells than asked for are left out. */
export const stripes = (days: readonly Day[], least: number): { readonly from: Day; readonly count: number }[] =>
  daySpans(days)
    .map(({ from, until }) => ({ from, count: daysBetween(from, until) + 1 }))
    .filter(({ count }) => count >= least);

/** Whether a row has what is looked for in its name, number or due date's words. */
export const isFound = (text: string, ...words: readonly string[]): boolean => {
  const asked = text.trim().toLowerCase();
  return asked === '' || words.some((each) => each.toLowerCase().includes(asked));
};

/** From when to when the drawing reaches: a little before now to a little after the last end or due date. */
export function reach({ now, rows }: Pick<PlanAnswer, 'now' | 'rows'>, at: Placed): [from: Date, to: Date] {
  const from = at(now) - 3 * DAY_MS;
  let to = from + LEAST_DAYS * DAY_MS;
  for (const { finishesAt, dueDate, likely } of rows) {
    if (likely) to = Math.max(to, at(likely.ninetyAt));
    if (finishesAt) to = Math.max(to, at(finishesAt));
    if (dueDate) to = Math.max(to, dayEnds(dueDate));
  }
  return [new Date(from), new Date(to + 7 * DAY_MS)];
}

/** How many pieces are in a room from one instant on. */
export interface RoomStep {
  readonly at: number;
  readonly count: number;
}

/** Each room's pieces over time, as steps; rooms that nobody enters are left out. */
export function roomLoads(
  rows: readonly PlanRow[],
  placed: Placed,
): { readonly room: Room; readonly steps: RoomStep[]; readonly most: number }[] {
  return ROOMS.map((room) => {
    const changes: [at: number, by: number][] = rows.flatMap(({ spans }) =>
      spans
        .filter(([where]) => where === room)
        .flatMap(([, from, to]): [number, number][] => [
          [placed(from), 1],
          [placed(to), -1],
        ]),
    );
    changes.sort((a, b) => a[0] - b[0]);
    const steps: RoomStep[] = [];
    let count = 0;
    for (const [at, by] of changes) {
      count += by;
      if (steps.at(-1)?.at === at) steps[steps.length - 1] = { at, count };
      else steps.push({ at, count });
    }
    return { room, steps, most: steps.reduce((most, step) => Math.max(most, step.count), 0) };
  }).filter(({ steps }) => steps.length > 0);
}

/** Rows come and go so many at once. */
const ROWS_AT_ONCE = 8;

/** The rows that can be seen in a window that is scrolled, with some beyond its edges: the same until it is scrolled past those. */
export function visibleRows(
  count: number,
  rowPx: number,
  scrollPx: number,
  heightPx: number,
): [first: number, last: number] {
  const first = Math.floor(scrollPx / rowPx / ROWS_AT_ONCE) * ROWS_AT_ONCE;
  const last = Math.ceil((scrollPx + heightPx) / rowPx / ROWS_AT_ONCE) * ROWS_AT_ONCE;
  return [Math.max(0, first - ROWS_AT_ONCE), Math.min(count, last + ROWS_AT_ONCE)];
}

/** What a row says in words: for hover and screen readers. */
export function rowWords(
  row: PlanRow,
  print: { readonly dayOf: (instant: string) => string; readonly day: (day: string) => string },
): string {
  const chance = row.likely ? `, nine chances in ten by ${print.dayOf(row.likely.ninetyAt)}` : '';
  const out = row.finishesAt ? `out ${print.dayOf(row.finishesAt)}${chance}` : 'not planned';
  const due = row.dueDate ? `due ${print.day(row.dueDate)}` : 'no due date';
  const late = row.lateDays > 0 ? `, ${row.lateDays} ${row.lateDays === 1 ? 'day' : 'days'} late` : '';
  const assumed = row.likely?.assumes ? ', if what is undecided is decided in time' : '';
  const moved = row.moved ? `, was out ${print.dayOf(row.moved.from)} in the plan of the day before` : '';
  return `${row.title} ${row.mark}: ${out}${assumed}, ${due}${late}${moved}`;
}
