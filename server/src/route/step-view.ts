import type { Id, Person, ShopIndex, Standing, Step, StepView } from '@kalvet/core';
import type { Dates } from '../plan/read-plan.ts';
import { STEP_KINDS, carrierLabel, roomOfStep, stepName, waitsInWords } from '@kalvet/core';

/** A step as the screens draw it, its people by name. */
export function stepView(
  index: ShopIndex,
  standing: Standing | undefined,
  step: Step,
  people: ReadonlyMap<Id, Person>,
  dates?: Dates,
): StepView {
  return {
    id: step.id,
    kind: step.kind,
    name: stepName(index, step),
    on: carrierLabel(index, step),
    room: roomOfStep(index, step),
    carrier: step.carrier,
    carrierId: step.carrierId,
    sequence: step.sequence,
    state: step.state,
    outcome: step.outcome,
    startedAt: step.startedAt,
    endedAt: step.endedAt,
    by: step.by.map((id) => people.get(id)?.name ?? 'somebody'),
    readings: step.readings,
    note: step.note,
    flags: step.flags,
    insertedWhy: step.insertedWhy,
    through: STEP_KINDS[step.kind].through ?? null,
    waits: standing ? waitsInWords(index, standing) : [],
    held: (standing?.held.length ?? 0) > 0,
    readyAt: standing?.readyAt ?? null,
    tooOldAt: standing?.tooOldAt ?? null,
    pinKind: step.pinKind,
    pinAt: step.pinAt,
    plannedStart: dates?.startsAt ?? null,
    plannedEnd: dates?.endsAt ?? null,
    version: step.version,
  };
}
