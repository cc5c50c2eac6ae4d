import type { DayLine, Id, Instant, NextStep, Step } from '@kalvet/core';
import { piecesOfStep, stepInLists } from '@kalvet/core';
import { Op } from 'sequelize';
import { rowsOf } from '../db/rows.ts';
import { labelled } from '../shop/labelled.ts';
import type { Store } from '../write/store.ts';
import { dayLine } from './day-line.ts';

/** What the plan has until the end of a day, by step. */
export type PlannedUntil = ReadonlyMap<Id, PlannedRow>;

interface PlannedRow {
  readonly stepId: Id;
  readonly startsAt: Instant;
  readonly endsAt: Instant;
  readonly load_: string | null;
}

export async function plannedUntil(store: Store, planId: Id | null, dayEnd: Instant): Promise<PlannedUntil> {
  if (planId === null) return new Map();
  const rows = await rowsOf<PlannedRow>(store, 'plannedSteps', { planId, startsAt: { [Op.lt]: dayEnd } });
  return new Map(rows.map((row) => [row.stepId, row]));
}

/**
 * Every step that is planned for the day behind those that are next: the third dip of a tree whose second is not done yet,
 * the joining of a wax that is chased this morning.
 */
export async function laterToday(
  store: Store,
  today: PlannedUntil,
  lines: readonly DayLine[],
  late: ReadonlySet<Id>,
  liftLimitKg: number,
): Promise<DayLine[]> {
  const known = new Set(lines.map(({ stepId }) => stepId));
  const ids = [...today.keys()].filter((id) => !known.has(id));
  const wanted = (await rowsOf<Step>(store, 'steps', { id: ids, state: 'planned' })).filter(
    ({ carrier }) => carrier !== 'load' && carrier !== 'heat',
  );
  if (wanted.length === 0) return [];
  const of = (carrier: Step['carrier']) =>
    wanted.filter((step) => step.carrier === carrier).map(({ carrierId }) => carrierId);
  const index = await labelled(store, {
    casts: of('cast'),
    trees: of('tree'),
    pieces: of('piece'),
    moulds: of('mould'),
    steps: wanted,
  });
  const byCarrier = new Map(lines.map((line) => [line.carrierId, line]));
  const byPiece = new Map(lines.flatMap((line) => line.pieceIds.map((id) => [id, line] as const)));
  return wanted
    .map((step) => {
      const pieceIds = piecesOfStep(index, step);
      const before = byCarrier.get(step.carrierId) ?? pieceIds.map((id) => byPiece.get(id)).find(Boolean);
      const { startsAt, endsAt, load_ } = today.get(step.id)!;
      const next: NextStep = {
        ...stepInLists(index, step, liftLimitKg),
        state: 'planned',
        waits: before ? [before.name] : [],
        held: false,
        readyAt: null,
        tooOldAt: null,
      };
      const dates = { startsAt, endsAt, load: load_ };
      return dayLine(next, { version: step.version, dates, pieceIds, late, after: true });
    })
    .sort((a, b) => (a.plannedStart ?? '').localeCompare(b.plannedStart ?? ''));
}
