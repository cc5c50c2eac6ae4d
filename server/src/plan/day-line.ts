import type { Dates, DayLine, Id, NextStep } from '@kalvet/core';
import { kindOf } from '@kalvet/core';

/** What a line has beside its step. */
export interface Beside {
  readonly version: number;
  readonly dates: Dates | undefined;
  readonly pieceIds: readonly Id[];
  readonly late: ReadonlySet<Id>;
  readonly after: boolean;
}

/** A step as a line of the Day sheet. */
export const dayLine = (step: NextStep, { version, dates, pieceIds, late, after }: Beside): DayLine => ({
  ...step,
  version,
  through: kindOf(step.kind).through ?? null,
  plannedStart: dates?.startsAt ?? null,
  plannedEnd: dates?.endsAt ?? null,
  load: dates?.load ?? null,
  pieceIds,
  late: pieceIds.some((id) => late.has(id)),
  after,
});
