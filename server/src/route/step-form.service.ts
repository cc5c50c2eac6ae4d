import type { Id, Step, StepForm } from '@kalvet/core';
import { alloyOfStep, indexShop, isWide, kindOf, stepForm as formOf } from '@kalvet/core';
import { openLoads } from '../burnout/load-read.service.ts';
import type { Row } from '../db/tables.ts';
import { fromRow } from '../db/tables.ts';
import { people } from '../people/person-of.ts';
import { settingsOf } from '../people/settings.ts';
import { openHeats } from '../pour/heat-read.service.ts';
import { returnsAtHand } from '../pour/returns.service.ts';
import { loadShop, rowsOf, sharing } from '../shop/load.ts';
import { worksOf } from '../shop/works-of.ts';
import { weighedOf } from '../work/section-weights.service.ts';
import { Problem, notFound } from '../write/problem.ts';
import type { Server } from '../http/request.ts';

/** What the record panel needs for a step: the slice of the shop round it is read, and core makes the form. */
export async function stepForm({ store, now }: Server, id: Id): Promise<StepForm> {
  const row = await store.models.steps.findByPk(id, { raw: true });
  if (!row) throw notFound('step');
  const step = fromRow<Step>('steps', row as unknown as Row);
  if (step.carrier === 'load' || step.carrier === 'heat')
    throw new Problem('refused', `This belongs to its ${step.carrier} as a whole; open that instead.`, {
      rule: 'through',
      mayOverride: false,
    });
  // Somebody ended what it belongs to while the form was on its way.
  if (step.state === 'void')
    throw new Problem('refused', 'This step is void: what it belongs to was ended or changed meanwhile.', {
      rule: 'closed',
      mayOverride: false,
    });
  const kind = kindOf(step.kind);
  const settings = await settingsOf(store);
  // Whatever may go on the same tree, into the same kiln or crucible can come from any work.
  const workIds = isWide(kind)
    ? (await rowsOf<{ id: Id }>(store, 'works', {})).map((work) => work.id)
    : await sharing(store, await worksOf(store, step.carrier, step.carrierId));
  const alsoPieces = step.carrier === 'piece' ? [step.carrierId] : [];
  const index = indexShop(await loadShop(store, { workIds, alsoPieces }));
  const alloyId = alloyOfStep(index, step);
  const sectionId = index.cast.get(step.carrierId)?.sectionId;
  const heated = kind.through === 'heat';
  const [everybody, heats, loads, earlierWaxes, returnsAtHandKg] = await Promise.all([
    people(store),
    heated ? openHeats(store) : [],
    kind.through === 'load' ? openLoads(store) : [],
    kind.weighs === 'wax' && sectionId ? weighedOf(store, sectionId) : [],
    heated && alloyId ? returnsAtHand(store, alloyId) : 0,
  ]);
  return formOf(index, step, {
    now: now(),
    people: new Map(everybody.map(({ id: personId, name }) => [personId, name])),
    liftLimitKg: settings.liftLimitKg,
    heats: heats.filter((heat) => heat.alloyId === alloyId),
    loads,
    earlierWaxes,
    returnsAtHandKg,
  });
}
