import type { CoatRow, CoatView, CoatsAnswer, Id, Step } from '@kalvet/core';
import {
  carrierLabel,
  chainOf,
  indexShop,
  isClosed,
  isOpen,
  piecesOfStep,
  readingsInWords,
  standings,
  stepName,
  treeFigures,
  waitsInWords,
} from '@kalvet/core';
import { QueryTypes } from 'sequelize';
import { changeNumber } from '../live/changes.ts';
import { people } from '../people/people.service.ts';
import { settingsOf } from '../people/settings.ts';
import { currentPlan, plannedDates } from '../plan/read-plan.ts';
import { loadShop, sharing } from '../shop/load.ts';
import type { Server } from '../write/request.ts';

/** Every tree that is being dipped, with its coats: what is dry, what is too old, and who dipped what when. */
export async function coats({ store, now }: Server): Promise<CoatsAnswer> {
  const change = await changeNumber(store);
  const plan = await currentPlan(store);
  const settings = await settingsOf(store);
  const dipping = await store.db.query<{ id: Id; workId: Id }>(
    `SELECT DISTINCT pr.id, p.workId FROM projection pr JOIN tree_cast m ON m.treeId = pr.id AND m.until IS NULL
       JOIN cast_ c ON c.id = m.castId JOIN piece p ON p.id = c.pieceId
      WHERE pr.carrier = 'tree' AND pr.room = 'shell'`,
    { type: QueryTypes.SELECT },
  );
  const workIds = [...new Set(dipping.map(({ workId }) => workId))];
  const index = indexShop(await loadShop(store, { workIds: await sharing(store, workIds) }));
  const known = new Map((await people(store)).map(({ id, shortName }) => [id, shortName]));
  const found = standings(index);
  const nextOf = (treeId: Id) => chainOf(index.stepsOf.get(treeId) ?? []).find(isOpen);
  const treeIds = [...new Set(dipping.map(({ id }) => id))].filter((id) => nextOf(id)?.kind === 'coat');
  const dates = await plannedDates(
    store,
    plan.stand.planId,
    treeIds.flatMap((id) => nextOf(id)?.id ?? []),
  );
  const coatView = (step: Step, next: Step): CoatView => ({
    stepId: step.id,
    version: step.version,
    sequence: step.sequence,
    name: stepName(index, step),
    state: isClosed(step) ? 'done' : step.id === next.id ? 'next' : 'later',
    at: step.endedAt,
    by: step.by.map((id) => known.get(id) ?? '?'),
    readings: readingsInWords('coat', step.readings),
    flags: step.flags,
  });
  const rows = treeIds.map((treeId): CoatRow => {
    const next = nextOf(treeId)!;
    const standing = found.get(next.id);
    return {
      treeId,
      label: carrierLabel(index, { carrier: 'tree', carrierId: treeId }),
      pieceIds: piecesOfStep(index, { carrier: 'tree', carrierId: treeId }),
      readyAt: standing?.readyAt ?? null,
      tooOldAt: standing?.tooOldAt ?? null,
      waits: standing ? waitsInWords(index, standing) : [],
      plannedStart: dates.get(next.id)?.startsAt ?? null,
      coats: chainOf(index.stepsOf.get(treeId) ?? [])
        .filter(({ kind }) => kind === 'coat')
        .map((step) => coatView(step, next)),
      lift: treeFigures(index, treeId, settings.liftLimitKg).dipping ?? null,
    };
  });
  return {
    change,
    now: now(),
    plan: plan.stand,
    rows: rows.sort((a, b) => (a.readyAt ?? '9').localeCompare(b.readyAt ?? '9')),
  };
}
