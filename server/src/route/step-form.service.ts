import type { Id, Step, StepForm, StepKind } from '@kalvet/core';
import { alloyOfStep, indexShop, isWide, kindOf, stepForm as formOf } from '@kalvet/core';
import { Op } from 'sequelize';
import { openLoads } from '../burnout/load-read.service.ts';
import type { Row } from '../db/tables.ts';
import { fromRow } from '../db/tables.ts';
import { people } from '../people/person-of.ts';
import { settingsOf } from '../people/settings.ts';
import { openHeats } from '../pour/heat-read.service.ts';
import { returnsAtHand } from '../pour/returns.service.ts';
import { GONE, loadShop, sharing } from '../shop/load.ts';
import type { TreeStored } from '../shop/stored.ts';
import { stored, treesIn } from '../shop/stored.ts';
import { worksOf } from '../shop/works-of.ts';
import { weighedOf } from '../work/section-weights.service.ts';
import { Problem, notFound } from '../write/problem.ts';
import type { Store } from '../write/store.ts';
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
  const workIds = await sharing(store, await worksOf(store, step.carrier, step.carrierId));
  const pieceIds = isWide(kind) ? await mayComeAlong(store, kind) : [];
  const alsoPieces = step.carrier === 'piece' ? [step.carrierId] : [];
  const index = indexShop(await loadShop(store, { workIds, pieceIds, alsoPieces }));
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

/**
 * Pieces of any work that may go with such a step: waxes whose tree is not joined yet, and trees whose turn in the kiln or the
 * crucible it is, or that stand in an open heat. Nothing else of their works is read.
 */
async function mayComeAlong(store: Store, kind: StepKind): Promise<Id[]> {
  if (kind.joinsTree) {
    const rows = (await store.models.casts.findAll({
      attributes: ['pieceId'],
      where: { state: 'wax' },
      include: [
        { association: 'piece', attributes: [], required: true, where: { state: { [Op.notIn]: GONE } } },
        {
          association: 'treeCasts',
          attributes: [],
          required: true,
          where: { until: null },
          include: [{ association: 'tree', attributes: [], required: true, where: { state: 'planned' } }],
        },
      ],
      raw: true,
    })) as unknown as { pieceId: Id }[];
    return [...new Set(rows.map(({ pieceId }) => pieceId))];
  }
  const trees = await treesIn(store, kind.room);
  const open = kind.through === 'heat' ? await openHeats(store) : [];
  const inHeats = new Set(open.flatMap(({ pourings }) => pourings.map(({ treeId }) => treeId)));
  const others = [...inHeats].filter((id) => !trees.has(id));
  const beside = await stored<TreeStored>(store, 'tree', others);
  return [...new Set([...trees.values(), ...beside.values()].flatMap(({ pieceIds }) => pieceIds))];
}
