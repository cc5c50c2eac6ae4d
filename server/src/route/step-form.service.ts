import type {
  FormAround,
  HeatAnswer,
  Id,
  KeptTree,
  LastSaid,
  ShopIndex,
  Step,
  StepForm,
  StepKind,
  TrayForm,
} from '@kalvet/core';
import { alloyOfStep, indexShop, kindOf, stepForm as formOf, trayForm as trayOf } from '@kalvet/core';
import { Op } from 'sequelize';
import { openLoads } from '../burnout/load-read.service.ts';
import type { Row } from '../db/tables.ts';
import { fromRow } from '../db/tables.ts';
import { people } from '../people/person-of.ts';
import { settingsOf } from '../people/settings.ts';
import { openHeats } from '../pour/heat-read.service.ts';
import { metalChoices } from '../stores/metal-read.service.ts';
import { learnedIn } from '../shop/learned.ts';
import { GONE, loadShop, sharing } from '../shop/load.ts';
import type { TreeStored } from '../shop/stored.ts';
import { stored, treesIn } from '../shop/stored.ts';
import { worksOf } from '../shop/works-of.ts';
import { weighedOf } from '../work/section-weights.service.ts';
import { Problem, invalid, notFound } from '../write/problem.ts';
import type { Store } from '../write/store.ts';
import type { Server } from '../http/request.ts';

/** What the record panel needs for a step: the slice of the shop round it is read, and core makes the form. */
export async function stepForm(server: Server, id: Id): Promise<StepForm> {
  const step = await recordable(server.store, id);
  const { index, around } = await formAround(server, [step]);
  return formOf(index, step, around);
}

/** What recording several steps of one kind at once needs: one form, and what is each one's own. */
export async function trayForm(server: Server, ids: readonly Id[]): Promise<TrayForm> {
  const steps = await Promise.all(ids.map((id) => recordable(server.store, id)));
  const [first] = steps as [Step];
  if (steps.some(({ kind }) => kind !== first.kind))
    throw invalid({ ids: 'only steps of one kind are recorded together' });
  const { index, around } = await formAround(server, steps);
  return trayOf(index, steps, around);
}

/** A step that has a form of its own. @throws Problem where there is none, or it belongs to a whole */
async function recordable(store: Store, id: Id): Promise<Step> {
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
  return step;
}

/** The slice of the shop that forms of some steps of one kind are made from, and what stands beside it. */
async function formAround(
  { store, now }: Server,
  steps: readonly Step[],
): Promise<{ index: ShopIndex; around: FormAround }> {
  const [step] = steps as [Step];
  const kind = kindOf(step.kind);
  const settings = await settingsOf(store);
  // Whatever may go on the same tree, into the same kiln or crucible can come from any work.
  const works = await Promise.all(steps.map(({ carrier, carrierId }) => worksOf(store, carrier, carrierId)));
  const workIds = await sharing(store, [...new Set(works.flat())]);
  const heated = kind.through === 'heat';
  const [alsoTrees, heats] = await Promise.all([alsoInTurn(store, kind), heated ? openHeats(store) : []]);
  const index = indexShop(
    await loadShop(store, {
      workIds,
      pieceIds: await inOpenHeats(store, heats, alsoTrees),
      castIds: kind.joinsTree ? await looseWaxes(store) : [],
      alsoPieces: step.carrier === 'piece' ? steps.map(({ carrierId }) => carrierId) : [],
    }),
  );
  const alloyId = alloyOfStep(index, step);
  const sectionId = index.cast.get(step.carrierId)?.sectionId;
  const [everybody, loads, earlierWaxes, metal, last] = await Promise.all([
    people(store),
    kind.through === 'load' ? openLoads(store) : [],
    kind.weighs === 'wax' && sectionId ? weighedOf(store, sectionId) : [],
    heated && alloyId ? metalChoices(store, alloyId, heatOf(heats, step.carrierId)) : NO_METAL,
    lastSaid(store, kind),
  ]);
  const around: FormAround = {
    now: now(),
    people: new Map(everybody.map(({ id: personId, name }) => [personId, name])),
    liftLimitKg: settings.liftLimitKg,
    heats: heats.filter((heat) => heat.alloyId === alloyId),
    loads,
    alsoTrees,
    earlierWaxes,
    ...metal,
    learned: kind.effort ? await learnedIn(store) : new Map(),
    last,
  };
  return { index, around };
}

const NO_METAL = { returnsAtHandKg: 0, lots: [], pots: [] };

/** The open heat that a tree stands in. */
const heatOf = (heats: readonly HeatAnswer[], treeId: Id): Id | undefined =>
  heats.find(({ pourings }) => pourings.some((each) => each.treeId === treeId))?.id;

/** What was read at the last step of a kind, wherever; nothing where none of its readings lasts. */
async function lastSaid(store: Store, kind: StepKind): Promise<LastSaid | null> {
  const hours = Math.max(0, ...kind.readings.map(({ lastsHours }) => lastsHours ?? 0));
  if (hours === 0) return null;
  const row = (await store.models.steps.findOne({
    attributes: ['endedAt', 'readings', 'loadId', 'treeId'],
    where: { kind: kind.code, state: 'done' },
    order: [['endedAt', 'DESC']],
    raw: true,
  })) as unknown as Row | null;
  if (!row) return null;
  const { endedAt, readings } = fromRow<Step>('steps', row);
  return endedAt === null ? null : { at: endedAt, readings };
}

/** Waxes of any work whose tree is not joined yet: they may come onto this one. */
async function looseWaxes(store: Store): Promise<Id[]> {
  const rows = (await store.models.casts.findAll({
    attributes: ['id'],
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
  })) as unknown as { id: Id }[];
  return rows.map(({ id }) => id);
}

/** Trees of any work whose turn in the same kiln or crucible it is, as they are kept ready. */
async function alsoInTurn(store: Store, kind: StepKind): Promise<KeptTree[]> {
  if (!kind.through) return [];
  return [...(await treesIn(store, kind.room))].flatMap(([treeId, { next, alloyId, pour, waitsFor }]) =>
    next && next.kind === kind.code && waitsFor === 0 ? [{ treeId, next, alloyId, pour }] : [],
  );
}

/** Pieces of trees that stand in an open heat although it is not their turn yet: their pour is read from their records. */
async function inOpenHeats(store: Store, heats: readonly HeatAnswer[], known: readonly KeptTree[]): Promise<Id[]> {
  const inTurn = new Set(known.map(({ treeId }) => treeId));
  const ids = heats.flatMap(({ pourings }) => pourings.map(({ treeId }) => treeId)).filter((id) => !inTurn.has(id));
  const trees = await stored<TreeStored>(store, 'tree', [...new Set(ids)]);
  return [...new Set([...trees.values()].flatMap(({ pieceIds }) => pieceIds))];
}
