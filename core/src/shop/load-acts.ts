import type { Load, LoadPlace, LoadPurpose } from '../records/burnout.ts';
import type { LightLoad, LoadRecord, PlanLoad } from '../records/burnout-writes.ts';
import type { Id } from '../records/common.ts';
import type { Concern } from '../records/history.ts';
import type { Abandon } from '../records/pour-writes.ts';
import type { Refusal } from '../records/refusal.ts';
import { never } from '../records/refusal.ts';
import type { Op } from '../records/shop.ts';
import { applyOps, insert, update } from '../records/shop.ts';
import type { Step } from '../records/step.ts';
import { isOpen } from '../records/step.ts';
import { chainOf } from '../route/chain.ts';
import { plannedStep } from '../route/grow.ts';
import { judgeStart } from '../route/judge.ts';
import { treeLabel } from '../route/labels.ts';
import { linksOf } from '../route/links.ts';
import type { ShopIndex } from '../route/shop-index.ts';
import { openPlaceOf } from '../route/shop-index.ts';
import { celsius } from '../units/quantity.ts';
import { say } from '../units/words.ts';
import type { Act, Doing, Told } from './act.ts';
import { allow, concernsOf, counted, invalidAct, isPossible, refusedAct, wrongPeople, wrongTimes } from './act.ts';
import { closeJudged } from './close-judged.ts';
import { indexShop } from './index-shop.ts';
import type { KilnNumbers } from './kiln-floor.ts';
import { judgeFloor, kilnTree, layTrees } from './kiln-floor.ts';

const isOver = ({ state }: Load): boolean => state === 'done' || state === 'abandoned';

/** The firing that a tree waits for: the first of its kiln steps that is not done. */
export const firingOf = (index: ShopIndex, treeId: Id): Step | undefined =>
  chainOf(index, treeId).find((step) => index.kind(step).kiln && isOpen(step));

/** The kind of step that concerns a whole load or heat. */
const wholeOf = (index: ShopIndex, carrier: 'load' | 'heat') =>
  index.kinds.find((kind) => kind.carrier === carrier)!.code;

const concernsOfTrees = (index: ShopIndex, treeIds: readonly Id[]): Concern[] =>
  treeIds.flatMap((treeId) => {
    const step = firingOf(index, treeId);
    return step ? concernsOf(index, step) : [['tree', treeId] as const];
  });

function judgeLoad(index: ShopIndex, treeIds: readonly Id[], numbers: KilnNumbers): Refusal[] {
  const refusals: Refusal[] = [];
  if (new Set(treeIds).size !== treeIds.length) refusals.push(never('twice', 'A tree is in this load twice.'));
  const trees = [...new Set(treeIds)].map((id) => kilnTree(index, id, numbers));
  refusals.push(...judgeFloor(index, trees, numbers));
  for (const treeId of new Set(treeIds)) {
    const label = treeLabel(index, treeId);
    if (!firingOf(index, treeId)) refusals.push(never('state', say`${label} has nothing to be fired.`));
    const other = openPlaceOf(index, treeId);
    if (other)
      refusals.push(never('twice', say`${label} is in load L-${index.load.get(other.loadId)!.number} already.`));
  }
  const kilns = new Set(treeIds.map((treeId) => kilnOf(index, treeId)).filter(Boolean));
  if (kilns.size > 1)
    refusals.push(
      never(
        'kiln',
        kilns.has('block')
          ? 'Blocks burn out slowly, shells fast: they do not go into one load.'
          : 'Shells that lose their wax and shells that are fired do not go into one load.',
      ),
    );
  return refusals;
}

const kilnOf = (index: ShopIndex, treeId: Id) => {
  const step = firingOf(index, treeId);
  return step && index.kind(step).kiln;
};

/** What a load is for: as its trees' steps are called, a first firing before one that is done again. */
function purposeOf(index: ShopIndex, treeIds: readonly Id[]): LoadPurpose {
  const kinds = treeIds.flatMap((treeId) => firingOf(index, treeId)?.kind ?? []);
  return [...kinds].sort((a, b) => index.order.get(a)! - index.order.get(b)!)[0]! as LoadPurpose;
}

/** Plans a load, and where it is written up at once, fires it in the same act. */
export function planLoad(index: ShopIndex, given: PlanLoad, doing: Doing): Act<{ id: Id; number: number }> {
  const refusals = judgeLoad(index, given.treeIds, doing.settings);
  if (refusals.length > 0) return refusedAct(refusals);
  const load: Load = {
    id: given.id,
    number: 0,
    purpose: purposeOf(index, given.treeIds),
    state: 'planned',
    startedAt: null,
    endedAt: null,
    profile: '',
    topC: null,
    profileId: given.profileId ?? null,
    waxBackKg: null,
    energyKwh: null,
    reason: null,
    version: 1,
  };
  const trees = given.treeIds.map((treeId) => kilnTree(index, treeId, doing.settings));
  const standing = new Map(layTrees(trees, doing.settings).placed.map(({ id, ...floor }) => [id, floor]));
  const places = given.treeIds.map((treeId): LoadPlace => ({
    id: doing.newId(),
    loadId: given.id,
    treeId,
    outcome: null,
    floor: standing.get(treeId) ?? null,
    stepId: null,
    version: 1,
  }));
  const ops: Op[] = [insert('loads', load), ...places.map((place) => insert('loadPlaces', place))];
  const answer = { id: given.id, number: 0 };
  if (given.record) {
    const fired = fireLoad(indexShop(applyOps(index.shop, ops)), load, given.record, doing);
    return isPossible(fired)
      ? { ...fired, ops: [...ops, ...fired.ops], answer }
      : { ...fired, fields: prefixed(fired.fields), answer };
  }
  return {
    refusals: [],
    fields: {},
    passed: [],
    ops,
    answer,
    tell: (after) => ({
      event: {
        verb: 'plan load',
        text: say`Load L-${numberOf(after, given.id)} planned with ${counted(places.length, 'tree')}`,
        room: 'burnout',
      },
      concerns: [['load', given.id], ...concernsOfTrees(index, given.treeIds)],
    }),
  };
}

const prefixed = (fields: Act['fields']): Act['fields'] =>
  Object.fromEntries(Object.entries(fields).map(([field, text]) => [`record.${field}`, text]));

const numberOf = (index: ShopIndex, loadId: Id): number => index.load.get(loadId)?.number ?? 0;

/** Writes a load up: its members' steps are closed with it, each with its own outcome. */
export function fireLoad(
  index: ShopIndex,
  load: Load,
  given: LoadRecord,
  doing: Doing,
): Act<{ id: Id; number: number }> {
  if (isOver(load)) return refusedAct([never('closed', say`Load L-${load.number} is ${load.state} already.`)]);
  const wrong = { ...wrongTimes(doing.now, given.startedAt, given.endedAt), ...wrongPeople(doing.people, given.by) };
  if (Object.keys(wrong).length > 0) return invalidAct(wrong);
  const places = index.inLoad.get(load.id) ?? [];
  if (places.length === 0) return refusedAct([never('state', 'No tree is in this load; abandon it instead.')]);
  const { endedAt, by, profile, topC, note, lost, waxBackKg = null, energyKwh = null } = given;
  const startedAt = given.startedAt ?? load.startedAt;
  const said = {
    startedAt,
    endedAt,
    by,
    readings: { profile, topC },
    ...(given.typed ? { typed: given.typed } : {}),
    ...(given.taken ? { taken: given.taken } : {}),
  };
  const ops: Op[] = [];
  const passed: Act['passed'][number][] = [];
  const concerns: Concern[] = [['load', load.id]];
  let now = index;
  for (const place of places) {
    const step = firingOf(now, place.treeId);
    if (!step) return refusedAct([never('state', say`${treeLabel(now, place.treeId)} has nothing to be fired.`)]);
    const loss = lost.find(({ treeId }) => treeId === place.treeId);
    const outcome = loss ? 'lost' : 'done';
    const closed = closeJudged(now, step, { ...said, outcome, note: loss?.why ?? note }, doing);
    if (!isPossible(closed)) return { ...refusedAct(closed.refusals), fields: closed.fields };
    const all = [...closed.ops, update('loadPlaces', place.id, { outcome, stepId: step.id })];
    passed.push(...closed.passed);
    concerns.push(...concernsOf(now, step));
    ops.push(...all);
    now = indexShop(applyOps(now.shop, all));
  }
  const whole = plannedStep(doing.newId, wholeOf(index, 'load'), 'load', load.id, {
    state: 'done',
    startedAt,
    endedAt,
    by: [...by],
    recordedBy: doing.actor?.id ?? null,
    outcome: 'done',
    note,
  });
  return {
    refusals: [],
    fields: {},
    passed: [...new Set(passed)],
    ops: [
      ...ops,
      insert('steps', whole),
      update('loads', load.id, { state: 'done', startedAt, endedAt, profile, topC, waxBackKg, energyKwh }),
    ],
    answer: { id: load.id, number: load.number },
    tell: (after): Told => ({
      event: {
        verb: 'record load',
        text: say`Load L-${numberOf(after, load.id)}: ${counted(places.length, 'tree')} ${load.purpose === 'dewax' ? 'dewaxed' : 'fired'} (${profile}, ${celsius(topC)})${lost.length > 0 ? `, ${lost.length} lost` : ''}`,
        room: 'burnout',
        doneAt: endedAt,
        bad: lost.length > 0,
      },
      concerns,
    }),
  };
}

/** A planned load is given up; its trees wait for another one. */
export function abandonLoad(index: ShopIndex, load: Load, { reason }: Abandon): Act<{ id: Id }> {
  if (isOver(load)) return refusedAct([never('closed', say`Load L-${load.number} is ${load.state} already.`)]);
  const treeIds = (index.inLoad.get(load.id) ?? []).map(({ treeId }) => treeId);
  return {
    refusals: [],
    fields: {},
    passed: [],
    ops: [update('loads', load.id, { state: 'abandoned', reason })],
    answer: { id: load.id },
    tell: () => ({
      event: {
        verb: 'abandon load',
        text: say`Load L-${load.number} abandoned: ${reason}`,
        room: 'burnout',
        reason,
        bad: true,
      },
      concerns: [['load', load.id], ...concernsOfTrees(index, treeIds)],
    }),
  };
}

/**
 * The kiln is lit for a load: from now on its thermocouples are its own. Every tree must be fit to go in at that time, as if its
 * firing began by itself: what is wet, on hold or not done yet is refused before the fire, not after it.
 */
export function lightLoad(index: ShopIndex, load: Load, given: LightLoad, doing: Doing): Act<{ id: Id }> {
  if (load.state !== 'planned' && load.state !== 'charged')
    return refusedAct([never('closed', say`Load L-${load.number} is ${load.state} already.`)]);
  const [ahead] = Object.values(wrongTimes(doing.now, null, given.at));
  if (ahead) return invalidAct({ at: ahead });
  if (!given.cupsDown && given.cupsNote === '') return invalidAct({ cupsNote: 'say which, and where' });
  const running = index.shop.loads.find(({ state, id }) => state === 'running' && id !== load.id);
  if (running) return refusedAct([never('kiln', say`Load L-${running.number} burns in the kiln still.`)]);
  const treeIds = (index.inLoad.get(load.id) ?? []).map(({ treeId }) => treeId);
  const links = linksOf(index);
  const { left, passed } = allow(
    treeIds.flatMap((treeId) => {
      const step = firingOf(index, treeId);
      return step
        ? judgeStart(index, links, step, given.at, {})
        : [never('state', say`${treeLabel(index, treeId)} has nothing to be fired.`)];
    }),
    doing,
  );
  if (left.length > 0) return refusedAct(left);
  return {
    refusals: [],
    fields: {},
    passed,
    ops: [update('loads', load.id, { state: 'running', startedAt: given.at })],
    answer: { id: load.id },
    tell: () => ({
      event: {
        verb: 'light load',
        text: say`Load L-${load.number} lit with ${counted(treeIds.length, 'tree')}, ${given.cupsDown ? 'every cup open and down' : say`cups not all down: ${given.cupsNote}`}`,
        room: 'burnout',
        doneAt: given.at,
        bad: !given.cupsDown,
      },
      concerns: [['load', load.id], ...concernsOfTrees(index, treeIds)],
    }),
  };
}
