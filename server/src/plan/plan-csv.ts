import type { PlanRow } from '@kalvet/core';
import { ROOMS, ROOM_NAMES, dayIn } from '@kalvet/core';
import { stringify } from 'csv-stringify/sync';

/** The plan as a table: a line a piece, days by the shop's clock, each room with its first and last. */
export function planCsv(rows: readonly PlanRow[], zone: string): string {
  const day = (instant: string | null | undefined) => (instant ? dayIn(instant, zone) : '');
  return stringify(
    rows.map(({ title, mark, state, dueDate, finishesAt, likely, lateDays, spans }) => [
      title,
      mark,
      state,
      dueDate ?? '',
      day(finishesAt),
      day(likely?.evenAt),
      day(likely?.ninetyAt),
      lateDays,
      ...ROOMS.flatMap((room) => {
        const span = spans.find(([where]) => where === room);
        return [day(span?.[1]), day(span?.[2])];
      }),
    ]),
    {
      header: true,
      bom: true,
      // What a spreadsheet would take for a formula stays a text.
      escape_formulas: true,
      columns: [
        'work',
        'piece',
        'state',
        'due',
        'out by plan',
        'out with one chance in two by',
        'out with nine in ten by',
        'days late',
        ...ROOMS.flatMap((room) => [`${ROOM_NAMES[room]} from`, `${ROOM_NAMES[room]} to`]),
      ],
    },
  );
}
