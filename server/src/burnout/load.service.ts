import type { Id, Load, LoadAnswer, LoadPlace, LoadPurpose, Refusal, ShopIndex, Step } from '@kalvet/core';
import { carrierLabel, chainOf, indexShop, isOpen, plannedStep } from '@kalvet/core';
import { settingsOf } from '../people/settings.ts';
import { checkPeople, checkTimes, closeJudged, concernStep } from '../route/step.service.ts';
import { loadRows } from '../shop/load.ts';
import type { TreeStored } from '../shop/stored.ts';
import { stored } from '../shop/stored.ts';
import { carryOut, lockShop, worksOf } from '../shop/locked.ts';
import type { Context, Store } from '../write/context.ts';
import { notFound, refused } from '../write/problem.ts';
import type { Abandon, LoadRecord, PlanLoad, RecordLoad } from './load.schema.ts';

const never = (rule: Refusal['rule'], message: string): Refusal => ({ rule, message, mayOverride: false });
const KILN = new Set(['fire', 'fire-block', 'refire']);

/** The works of several trees, taken for this write. */
export async function lockTrees(ctx: Context, treeIds: readonly Id[]): Promise<ShopIndex> {
  const works = new Set<Id>();
  for (const treeId of treeIds) {
    const own = await worksOf(ctx, 'tree', treeId);
    if (own.length === 0) throw notFound('tree');
    own.forEach((id) => works.add(id));
  }
  return lockShop(ctx, [...works]);
}

const treeLabel = (index: ShopIndex, treeId: Id) => carrierLabel(index, { carrier: 'tree', carrierId: treeId });

/** The firing that a tree waits for: the first of its kiln steps that is not done. */
const firingOf = (index: ShopIndex, treeId: Id): Step | undefined =>
  chainOf(index.stepsOf.get(treeId) ?? []).find((step) => KILN.has(step.kind) && isOpen(step));

async function judgeLoad(ctx: Context, index: ShopIndex, treeIds: readonly Id[]): Promise<LoadPurpose> {
  const refusals: Refusal[] = [];
  if (new Set(treeIds).size !== treeIds.length) refusals.push(never('twice', 'A tree is in this load twice.'));
  const { kilnPlaces } = await settingsOf(ctx.store, ctx.tx);
  if (treeIds.length > kilnPlaces)
    refusals.push(never('kiln', `The kiln has ${kilnPlaces} places; these are ${treeIds.length} trees.`));
  for (const treeId of treeIds) {
    if (!firingOf(index, treeId)) refusals.push(never('state', `${treeLabel(index, treeId)} has nothing to be fired.`));
    const other = await ctx.select<{ number: number }>(
      "SELECT l.number FROM load_place p JOIN kiln_load l ON l.id = p.loadId WHERE p.treeId = ? AND l.state IN ('planned','charged','running')",
      [treeId],
    );
    if (other[0]) refusals.push(never('twice', `${treeLabel(index, treeId)} is in load L-${other[0].number} already.`));
  }
  const kinds = new Set(treeIds.map((treeId) => firingOf(index, treeId)?.kind));
  if (kinds.has('fire-block') && kinds.size > 1)
    refusals.push(never('kiln', 'Blocks burn out slowly, shells fast: they do not go into one load.'));
  if (refusals.length > 0) throw refused(refusals);
  return kinds.has('fire-block') ? 'fire-block' : kinds.has('fire') ? 'fire' : 'refire';
}

/** Plans a load, and where it is written up at once, records it in the same transaction. */
export async function planLoad(ctx: Context, given: PlanLoad): Promise<{ id: Id; number: number }> {
  const index = await lockTrees(ctx, given.treeIds);
  const purpose = await judgeLoad(ctx, index, given.treeIds);
  const [load] = await ctx.insert<Load>('loads', [
    {
      id: given.id,
      number: 0,
      purpose,
      state: 'planned',
      startedAt: null,
      endedAt: null,
      profile: '',
      topC: null,
      reason: null,
      version: 1,
    },
  ]);
  const places = await ctx.insert<LoadPlace>(
    'loadPlaces',
    given.treeIds.map((treeId) => ({ id: ctx.newId(), loadId: given.id, treeId, outcome: null, version: 1 })),
  );
  ctx.concern('load', given.id);
  concernTrees(ctx, index, given.treeIds);
  ctx.event = {
    verb: 'plan load',
    text: `Load L-${load!.number} planned with ${count(given.treeIds)}`,
    room: 'burnout',
  };
  if (given.record) await fire(ctx, index, load!, places, given.record);
  return { id: given.id, number: load!.number };
}

const count = (treeIds: readonly unknown[]) => `${treeIds.length} ${treeIds.length === 1 ? 'tree' : 'trees'}`;

function concernTrees(ctx: Context, index: ShopIndex, treeIds: readonly Id[]): void {
  for (const treeId of treeIds) {
    const step = firingOf(index, treeId);
    if (step) concernStep(ctx, index, step);
  }
}

/** Records a planned load: its members' steps are closed in the same transaction, each with its own outcome. */
export async function recordLoad(ctx: Context, id: Id, given: RecordLoad): Promise<{ id: Id }> {
  const load = await ctx.claim<Load>('loads', id, given.version, 'load', given);
  if (load.state === 'done' || load.state === 'abandoned')
    throw refused([never('closed', `Load L-${load.number} is ${load.state} already.`)]);
  const places = await loadRows<LoadPlace>(ctx.store, 'loadPlaces', { loadId: id }, ctx.tx);
  const index = await lockTrees(
    ctx,
    places.map(({ treeId }) => treeId),
  );
  await fire(ctx, index, load, places, given);
  return { id };
}

async function fire(
  ctx: Context,
  index: ShopIndex,
  load: Load,
  places: readonly LoadPlace[],
  given: LoadRecord,
): Promise<void> {
  checkTimes(ctx, given.startedAt, given.endedAt);
  await checkPeople(ctx, given.by);
  const said = {
    startedAt: given.startedAt,
    endedAt: given.endedAt,
    by: given.by,
    readings: { profile: given.profile, topC: given.topC },
  };
  let shop = index.shop;
  for (const place of places) {
    const now = indexShop(shop);
    const step = firingOf(now, place.treeId);
    if (!step) throw refused([never('state', `${treeLabel(now, place.treeId)} has nothing to be fired.`)]);
    const lost = given.lost.find(({ treeId }) => treeId === place.treeId);
    const outcome = lost ? 'lost' : 'done';
    concernStep(ctx, now, step);
    const { ops } = closeJudged(ctx, now, step, { ...said, outcome, note: lost?.why ?? given.note });
    shop = await carryOut(ctx, shop, ops);
    await ctx.update('loadPlaces', place, { outcome });
  }
  const whole = plannedStep(ctx.newId, 'charge-kiln', 'load', load.id, {
    state: 'done',
    ...said,
    by: [...said.by],
    recordedBy: ctx.actor?.id ?? null,
    outcome: 'done',
    note: given.note,
  });
  await ctx.insert('steps', [whole]);
  await ctx.update('loads', load, {
    state: 'done',
    startedAt: given.startedAt,
    endedAt: given.endedAt,
    profile: given.profile,
    topC: given.topC,
  });
  ctx.concern('load', load.id);
  const lost = given.lost.length > 0 ? `, ${given.lost.length} lost` : '';
  ctx.event = {
    verb: 'record load',
    text: `Load L-${load.number}: ${count(places)} fired (${given.profile}, ${given.topC} °C)${lost}`,
    room: 'burnout',
    doneAt: given.endedAt,
    bad: given.lost.length > 0,
  };
}

/** A planned load is given up; its trees wait for another one. */
export async function abandonLoad(ctx: Context, id: Id, given: Abandon): Promise<{ id: Id }> {
  const load = await ctx.claim<Load>('loads', id, given.version, 'load', given);
  if (load.state === 'done' || load.state === 'abandoned')
    throw refused([never('closed', `Load L-${load.number} is ${load.state} already.`)]);
  await ctx.update('loads', load, { state: 'abandoned', reason: given.reason });
  ctx.concern('load', id);
  ctx.event = {
    verb: 'abandon load',
    text: `Load L-${load.number} abandoned: ${given.reason}`,
    room: 'burnout',
    reason: given.reason,
    bad: true,
  };
  return { id };
}

/** The loads that are planned or running. */
export async function openLoads(store: Store): Promise<LoadAnswer[]> {
  const loads = await loadRows<Load>(store, 'loads', { state: ['planned', 'charged', 'running'] });
  const places = await loadRows<LoadPlace>(store, 'loadPlaces', { loadId: loads.map(({ id }) => id) });
  const trees = await stored<TreeStored>(
    store,
    'tree',
    places.map(({ treeId }) => treeId),
  );
  return loads.map(({ id, number, purpose, state, version }) => ({
    id,
    number,
    purpose,
    state,
    version,
    trees: places
      .filter((place) => place.loadId === id)
      .map(({ treeId, outcome }) => ({ treeId, label: trees.get(treeId)?.next?.on ?? 'tree', outcome })),
  }));
}
