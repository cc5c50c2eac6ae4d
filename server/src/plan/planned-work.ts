import type { Day, Id, Instant, ShopIndex, ShopSettings, Step } from '@kalvet/core';
import { DAY_MIN, addDays, daysBetween, isOpen } from '@kalvet/core';
import { Op } from 'sequelize';
import { rowsOf } from '../db/rows.ts';
import { labelled } from '../shop/labelled.ts';
import type { Store } from '../write/store.ts';
import { WallClock } from './wall-clock.ts';

interface PlannedStep {
  readonly stepId: Id;
  readonly startsAt: Instant;
  readonly endsAt: Instant;
  readonly load_: string | null;
  readonly parts: readonly Instant[] | null;
  readonly partEnds: readonly Instant[] | null;
  readonly resourceId: Id;
}

/** A step with where the plan has it. */
export interface PlannedWork extends PlannedStep {
  readonly step: Step;
}

/**
 * Open steps that the plan has between two days, both included, by their begin, with the records that they are called after.
 */
export async function plannedWork(
  store: Store,
  planId: Id | null,
  {
    now,
    settings,
    from,
    to,
  }: { readonly now: Instant; readonly settings: ShopSettings; readonly from: Day; readonly to: Day },
): Promise<{ readonly work: readonly PlannedWork[]; readonly index: ShopIndex }> {
  const planned = planId === null ? [] : await plannedBetween(store, planId, windowOf(now, settings, from, to));
  const rows = await rowsOf<Step>(store, 'steps', { id: planned.map(({ stepId }) => stepId) });
  const steps = new Map(rows.map((step) => [step.id, step]));
  const work = planned.flatMap((each): PlannedWork[] => {
    const step = steps.get(each.stepId);
    return step && isOpen(step) ? [{ ...each, step }] : [];
  });
  const idsOf = (carrier: Step['carrier']) =>
    work.filter(({ step }) => step.carrier === carrier).map(({ step }) => step.carrierId);
  const index = await labelled(store, {
    casts: idsOf('cast'),
    trees: idsOf('tree'),
    pieces: idsOf('piece'),
    moulds: idsOf('mould'),
    steps: work.map(({ step }) => step),
  });
  return { work, index };
}

/** From the first minute of a day to the last of another, by the shop's clock. */
function windowOf(now: Instant, { timeZone }: ShopSettings, from: Day, to: Day): [Instant, Instant] {
  const clock = new WallClock(now, timeZone);
  const at = (day: Day) => clock.instantOf(daysBetween(clock.startDay, day) * DAY_MIN);
  return [at(from), at(addDays(to, 1))];
}

async function plannedBetween(store: Store, planId: Id, [from, to]: [Instant, Instant]): Promise<PlannedStep[]> {
  const rows = await rowsOf<PlannedStep>(store, 'plannedSteps', {
    planId,
    resourceId: { [Op.ne]: null },
    startsAt: { [Op.lt]: to },
    endsAt: { [Op.gt]: from },
  });
  return rows.sort((a, b) => a.startsAt.localeCompare(b.startsAt) || a.stepId.localeCompare(b.stepId));
}
