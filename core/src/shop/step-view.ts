import type { Id } from '../records/common.ts';
import type { StepView } from '../records/route.ts';
import type { Step } from '../records/step.ts';
import { carrierLabel, stepName } from '../route/labels.ts';
import type { ShopIndex } from '../route/shop-index.ts';
import type { Standing } from '../route/standing.ts';
import { roomOfStep, waitsInWords } from '../route/standing.ts';
import type { Instant } from '../units/instant.ts';
import { readingLines, readingsShown } from './readings.ts';

/** When a step is planned. */
export interface Dates {
  readonly startsAt: Instant;
  readonly endsAt: Instant;
  readonly load: string | null;
}

/** A step as the screens draw it, its people by name, its readings with what records hold of them. */
export function stepView(
  index: ShopIndex,
  standing: Standing | undefined,
  step: Step,
  people: ReadonlyMap<Id, string>,
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
    by: step.by.map((id) => people.get(id) ?? 'somebody'),
    readings: readingsShown(index, step),
    readingsVersion: step.readingsVersion,
    typed: step.typed,
    taken: step.taken,
    told: readingLines(index, step),
    note: step.note,
    flags: step.flags,
    insertedWhy: step.insertedWhy,
    through: index.kind(step).through ?? null,
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
