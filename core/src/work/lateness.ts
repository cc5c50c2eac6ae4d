import type { Piece } from '../records/work.ts';
import type { Day } from '../units/instant.ts';
import { daysBetween } from '../units/instant.ts';

/** Whether and by how much a piece is late. */
export interface Lateness {
  readonly late: boolean;
  readonly lateDays: number;
}

/**
 * Is it late? Its due date has passed and it is still here, or it is planned to be out after it. One that is out, cancelled
 * or due on no day is never late.
 * @param today the shop's day
 * @param plannedLateDays days after its due date by the plan; 0 where no plan holds it
 */
export function lateness(
  { dueDate, state }: Pick<Piece, 'dueDate' | 'state'>,
  today: Day,
  plannedLateDays = 0,
): Lateness {
  if (dueDate === null || state === 'delivered' || state === 'cancelled') return { late: false, lateDays: 0 };
  const lateDays = Math.max(0, daysBetween(dueDate, today), plannedLateDays);
  return { late: lateDays > 0, lateDays };
}
