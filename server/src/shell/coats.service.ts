import type { CoatRow, CoatView, CoatsAnswer, Id, Step } from '@kalvet/core';
import {
  carrierLabel,
  chainOf,
  firstOpen,
  indexShop,
  isClosed,
  piecesOfStep,
  readingsInWords,
  readingsShown,
  standings,
  stepName,
  treeFigures,
  waitsInWords,
} from '@kalvet/core';
import { changeNumber } from '../live/changes.ts';
import { people } from '../people/person-of.ts';
import { settingsOf } from '../people/settings.ts';
import { currentPlan, plannedDates } from '../plan/read-plan.ts';
import { loadShop } from '../shop/load.ts';
import { treesIn } from '../shop/stored.ts';
import type { Server } from '../http/request.ts';

/** Every tree that is being dipped, with its coats: what is dry, what is too old, and who dipped what when. */
export async function coats({ store, now }: Server): Promise<CoatsAnswer> {
  const change = await changeNumber(store);
  const plan = await currentPlan(store);
  const settings = await settingsOf(store);
  const dipping = await treesIn(store, 'shell');
  // Only the pieces on these trees are read: what else belongs to their works does not bear on a coat.
  const pieceIds = [...new Set([...dipping.values()].flatMap((tree) => tree.pieceIds))];
  const index = indexShop(await loadShop(store, { workIds: [], pieceIds }));
  const known = new Map((await people(store)).map(({ id, shortName }) => [id, shortName]));
  const found = standings(index);
  const nextOf = (treeId: Id) => firstOpen(chainOf(index, treeId));
  const isCoat = (step: Step | undefined): boolean => step !== undefined && index.kind(step).coat === true;
  const treeIds = [...dipping.keys()].filter((id) => isCoat(nextOf(id)));
  const dates = await plannedDates(
    store,
    plan.stand.planId,
    treeIds.flatMap((id) => nextOf(id)?.id ?? []),
  );
  const coatView = (step: Step, next: Step): CoatView => ({
    stepId: step.id,
    kind: step.kind,
    version: step.version,
    sequence: step.sequence,
    name: stepName(index, step),
    state: isClosed(step) ? 'done' : step.id === next.id ? 'next' : 'later',
    at: step.endedAt,
    by: step.by.map((id) => known.get(id) ?? '?'),
    readings: readingsInWords(index.kind(step), readingsShown(index, step), step.readingsVersion),
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
      coats: chainOf(index, treeId)
        .filter(isCoat)
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
