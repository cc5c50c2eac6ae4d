import type { DayLine, Room } from '@kalvet/core';
import { ROOMS } from '@kalvet/core';

/** How a step stands on today's sheet. */
export type Due = 'overdue' | 'running' | 'now' | 'today' | 'other day' | 'waits';

/** A room's part of the sheet, in the order of doing. */
export interface RoomSheet {
  readonly room: Room;
  readonly lines: readonly { readonly line: DayLine; readonly due: Due; readonly at: string | null }[];
  readonly waiting: number;
  readonly counts: Readonly<Record<Due, number>>;
}

const RANK: Readonly<Record<Due, number>> = { overdue: 0, running: 1, now: 2, today: 3, 'other day': 4, waits: 5 };

/**
 * How a step stands: overdue where it is too old or should have ended by the plan; now where it can begin and the plan has
 * it for today or says nothing; today where it becomes ready, or is planned, before the day ends.
 * @param dayEnd the first instant of tomorrow
 */
export function dueOf(line: DayLine, now: string, dayEnd: string): Due {
  if (line.state === 'running') return line.plannedEnd !== null && line.plannedEnd < now ? 'overdue' : 'running';
  if (line.after) return 'today';
  if (line.waits.length > 0 || line.held) return 'waits';
  if (line.tooOldAt !== null && line.tooOldAt < now) return 'overdue';
  const comes =
    [line.readyAt, line.plannedStart]
      .filter((at) => at !== null)
      .sort()
      .at(-1) ?? now;
  if (comes >= dayEnd) {
    // It would be too old by then: today all the same.
    return line.tooOldAt !== null && line.tooOldAt < dayEnd ? 'today' : 'other day';
  }
  return comes <= now ? 'now' : 'today';
}

/** The hour a line stands at: when it is dry or planned, whichever is later. */
const hourOf = (line: DayLine): string | null =>
  [line.readyAt, line.plannedStart]
    .filter((at) => at !== null)
    .sort()
    .at(-1) ?? null;

/** The sheet of each room that has anything to say, in the order of the work. */
export function roomSheets(lines: readonly DayLine[], now: string, dayEnd: string): RoomSheet[] {
  return ROOMS.map((room) => {
    const here = lines
      .filter((line) => line.room === room)
      .map((line) => ({ line, due: dueOf(line, now, dayEnd), at: hourOf(line) }));
    const counts = { overdue: 0, running: 0, now: 0, today: 0, 'other day': 0, waits: 0 };
    for (const { due } of here) counts[due]++;
    const shown = here
      .filter(({ due }) => due !== 'waits')
      .sort(
        (a, b) =>
          RANK[a.due] - RANK[b.due] ||
          (a.at ?? '').localeCompare(b.at ?? '') ||
          Number(b.line.late) - Number(a.line.late) ||
          a.line.on.localeCompare(b.line.on, undefined, { numeric: true }),
      );
    return { room, lines: shown, waiting: counts.waits, counts };
  }).filter(({ lines: some, waiting }) => some.length + waiting > 0);
}

/** What the rail says of a room. */
export function sheetWords({ counts }: RoomSheet): string {
  const words = [
    counts.overdue ? `${counts.overdue} overdue` : '',
    counts.running ? `${counts.running} begun` : '',
    counts.now ? `${counts.now} now` : '',
    counts.today ? `${counts.today} due` : '',
  ].filter(Boolean);
  return words.slice(0, 2).join(' · ') || 'nothing due';
}
