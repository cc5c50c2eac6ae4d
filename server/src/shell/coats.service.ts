import type { CoatLedger, CoatRow, CoatsAnswer } from '@kalvet/core';
import { changeNumber } from '../live/changes.ts';
import { people } from '../people/person-of.ts';
import { currentPlan, plannedDates } from '../plan/read-plan.ts';
import { treesBeside } from '../shop/stored.ts';
import type { Server } from '../http/request.ts';

/** Every tree that is being dipped, with its coats: what is dry, what is too old, and who dipped what when. All of it is kept ready. */
export async function coats({ store, now }: Server): Promise<CoatsAnswer> {
  const change = await changeNumber(store);
  const plan = await currentPlan(store);
  const known = new Map((await people(store)).map(({ id, shortName }) => [id, shortName]));
  const dipping = [...(await treesBeside<CoatLedger>(store, 'shell'))].flatMap(([treeId, { data, beside }]) =>
    data.next && beside ? [{ treeId, next: data.next, pieceIds: data.pieceIds, ledger: beside }] : [],
  );
  const dates = await plannedDates(
    store,
    plan.stand.planId,
    dipping.map(({ next }) => next.stepId),
  );
  const rows = dipping.map(({ treeId, next, pieceIds, ledger }): CoatRow => ({
    treeId,
    label: next.on,
    pieceIds,
    readyAt: next.readyAt,
    tooOldAt: next.tooOldAt,
    waits: next.waits,
    plannedStart: dates.get(next.stepId)?.startsAt ?? null,
    coats: ledger.coats.map((coat) => ({ ...coat, by: coat.by.map((id) => known.get(id) ?? '?') })),
    lift: ledger.lift,
  }));
  return {
    change,
    now: now(),
    plan: plan.stand,
    rows: rows.sort((a, b) => (a.readyAt ?? '9').localeCompare(b.readyAt ?? '9')),
  };
}
