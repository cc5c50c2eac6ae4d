import type { ChargeLine, Heat, Id, Pouring, Refusal, ShopIndex, Step } from '@kalvet/core';
import { alloyOf, carrierLabel, chainOf, charge, isOpen, judgeWet, plannedStep, treeFigures } from '@kalvet/core';
import { settingsOf } from '../people/settings.ts';
import { checkPeople, checkTimes, closeJudged, closedInWords, concernStep } from '../route/step.service.ts';
import { lockTrees } from '../burnout/load.service.ts';
import type { Abandon } from '../burnout/load.schema.ts';
import { loadRows } from '../shop/load.ts';
import { carryOut } from '../shop/locked.ts';
import type { Context } from '../write/context.ts';
import { invalid, notFound, refused } from '../write/problem.ts';
import type { ChangeHeat, FinishHeat, HeatPlan, PlanHeat, PourTree } from './heat.schema.ts';

const never = (rule: Refusal['rule'], message: string): Refusal => ({ rule, message, mayOverride: false });
const unless = (rule: Refusal['rule'], message: string): Refusal => ({ rule, message, mayOverride: true });
const treeLabel = (index: ShopIndex, treeId: Id) => carrierLabel(index, { carrier: 'tree', carrierId: treeId });

/** The pour that a tree waits for. */
export const pourStepOf = (index: ShopIndex, treeId: Id): Step | undefined =>
  chainOf(index.stepsOf.get(treeId) ?? []).find((step) => step.kind === 'pour' && isOpen(step));

/** What a heat's trees and charge lines break; over the usable mark may be overridden, over the rim never. */
async function judgePlan(
  ctx: Context,
  heat: Heat,
  index: ShopIndex,
  plan: HeatPlan,
  plannedKg: readonly number[],
): Promise<Refusal[]> {
  const refusals: Refusal[] = [];
  const ids = plan.trees.map(({ treeId }) => treeId);
  ids
    .filter((id, i) => ids.indexOf(id) !== i)
    .forEach((id) => refusals.push(never('twice', `${treeLabel(index, id)} is in this heat twice.`)));
  for (const treeId of new Set(ids)) {
    const tree = index.tree.get(treeId)!;
    if (tree.alloyId !== heat.alloyId)
      refusals.push(
        never(
          'alloy',
          `${treeLabel(index, treeId)} is ${alloyOf(tree.alloyId).name}, this heat ${alloyOf(heat.alloyId).name}.`,
        ),
      );
    if (!pourStepOf(index, treeId))
      refusals.push(never('state', `${treeLabel(index, treeId)} has nothing to be poured.`));
    const other = await ctx.select<{ number: number }>(
      "SELECT h.number FROM pouring p JOIN heat h ON h.id = p.heatId WHERE p.treeId = ? AND h.id <> ? AND p.outcome IS NULL AND h.state IN ('planned','charged','running')",
      [treeId, heat.id],
    );
    if (other[0]) refusals.push(never('twice', `${treeLabel(index, treeId)} is in heat H-${other[0].number} already.`));
  }
  for (const line of plan.chargeLines) {
    if (line.what === 'returns' && line.alloyId !== heat.alloyId)
      refusals.push(
        never(
          'alloy',
          line.alloyId
            ? `Returns of ${alloyOf(line.alloyId).name} do not go into ${alloyOf(heat.alloyId).name}.`
            : 'Returns of unknown alloy never go into the crucible.',
        ),
      );
    if (line.what === 'ingot' && line.alloyId !== heat.alloyId)
      refusals.push(never('alloy', 'The ingot is of another alloy than this heat.'));
    if (line.what === 'addition' && alloyOf(heat.alloyId).addition === 'none')
      refusals.push(never('alloy', `No additions for ${alloyOf(heat.alloyId).name}.`));
  }
  const inCrucible = Math.max(
    chargeOf(heat, plannedKg).charge.value,
    plan.chargeLines.reduce((sum, { kg }) => sum + kg, 0),
  );
  if (inCrucible > heat.holdsKg + 1e-9)
    refusals.push(
      never(
        'crucible',
        `${inCrucible.toFixed(1)} kg is more than the crucible holds (${heat.holdsKg} kg). Leave a tree for the next heat.`,
      ),
    );
  else if (inCrucible > heat.usableKg + 1e-9)
    refusals.push(unless('crucible', `${inCrucible.toFixed(1)} kg is above the usable mark of ${heat.usableKg} kg.`));
  return refusals;
}

/** The charge that a heat's pour weights ask for. */
export const chargeOf = (heat: Heat, plannedKg: readonly number[], returnsKg = 0, returnsShare?: number) =>
  charge({
    pourWeightsKg: plannedKg,
    pigReserveKg: heat.pigReserveKg,
    meltLoss: heat.meltLoss,
    usableKg: heat.usableKg,
    holdsKg: heat.holdsKg,
    returnsKg,
    ...(returnsShare === undefined ? {} : { returnsShare }),
  });

/** Pour weights as they stand now: a heat keeps those it was charged with. */
function pourWeights(index: ShopIndex, plan: HeatPlan, liftLimitKg: number): number[] {
  const fields: Record<string, string> = {};
  const weights = plan.trees.map(({ treeId, plannedKg }, i) => {
    const kg = plannedKg ?? treeFigures(index, treeId, liftLimitKg).metal?.pourWeight.value;
    if (kg === undefined)
      fields[`trees.${i}.plannedKg`] = `the weight of ${treeLabel(index, treeId)} is not known: enter its pour weight`;
    return kg ?? 0;
  });
  if (Object.keys(fields).length > 0) throw invalid(fields);
  return weights;
}

export async function planHeat(ctx: Context, given: PlanHeat): Promise<{ id: Id; number: number }> {
  const settings = await settingsOf(ctx.store, ctx.tx);
  const index = await lockTrees(
    ctx,
    given.trees.map(({ treeId }) => treeId),
  );
  const draft: Heat = {
    id: given.id,
    number: 0,
    alloyId: given.alloyId,
    state: 'planned',
    plannedFor: given.plannedFor,
    holdsKg: settings.crucibleHoldsKg,
    usableKg: settings.crucibleUsableKg,
    meltLoss: settings.meltLoss,
    pigReserveKg: settings.pigReserveKg,
    startedAt: null,
    endedAt: null,
    leadId: null,
    crew: null,
    signs: null,
    coverConfirmedById: null,
    coverConfirmedAt: null,
    pigKg: null,
    reason: null,
    version: 1,
  };
  const weights = pourWeights(index, given, settings.liftLimitKg);
  ctx.allow(await judgePlan(ctx, draft, index, given, weights));
  const [heat] = await ctx.insert<Heat>('heats', [draft]);
  await insertPlan(ctx, heat!, given, weights);
  concernHeat(
    ctx,
    index,
    heat!,
    given.trees.map(({ treeId }) => treeId),
  );
  ctx.event = {
    verb: 'plan heat',
    text: `Heat H-${heat!.number} planned: ${given.trees.length} trees, ${sum(weights).toFixed(1)} kg`,
    room: 'pour',
  };
  return { id: heat!.id, number: heat!.number };
}

const sum = (values: readonly number[]) => values.reduce((total, value) => total + value, 0);

async function insertPlan(ctx: Context, heat: Heat, plan: HeatPlan, weights: readonly number[]): Promise<void> {
  await ctx.insert<Pouring>(
    'pourings',
    plan.trees.map(({ treeId }, i) => ({
      id: ctx.newId(),
      heatId: heat.id,
      treeId,
      order: i + 1,
      plannedKg: weights[i]!,
      pouredKg: null,
      metalC: null,
      tempWhere: null,
      startedAt: null,
      seconds: null,
      outcome: null,
      version: 1,
    })),
  );
  await ctx.insert<ChargeLine>(
    'chargeLines',
    plan.chargeLines.map((line) => ({ ...line, id: ctx.newId(), heatId: heat.id, version: 1 })),
  );
}

export function concernHeat(ctx: Context, index: ShopIndex, heat: Heat, treeIds: readonly Id[]): void {
  ctx.concern('heat', heat.id);
  for (const treeId of treeIds) {
    const step = pourStepOf(index, treeId);
    if (step) concernStep(ctx, index, step);
  }
}

/** The heat, taken for this write, with its trees' works. */
export async function claimHeat(ctx: Context, id: Id, version: number, yours: unknown, alsoTrees: readonly Id[] = []) {
  const heat = await ctx.claim<Heat>('heats', id, version, 'heat', yours);
  if (heat.state === 'done' || heat.state === 'abandoned')
    throw refused([never('closed', `Heat H-${heat.number} is ${heat.state} already.`)]);
  const pourings = (await loadRows<Pouring>(ctx.store, 'pourings', { heatId: id }, ctx.tx)).sort(
    (a, b) => a.order - b.order,
  );
  const index = await lockTrees(ctx, [...new Set([...pourings.map(({ treeId }) => treeId), ...alsoTrees])]);
  return { heat, pourings, index };
}

/** Changes trees, their order and the charge, as long as nothing was poured. */
export async function changeHeat(ctx: Context, id: Id, given: ChangeHeat): Promise<{ id: Id }> {
  const treeIds = given.trees.map(({ treeId }) => treeId);
  const { heat, pourings, index } = await claimHeat(ctx, id, given.version, given, treeIds);
  if (pourings.some(({ outcome }) => outcome !== null))
    throw refused([never('closed', 'Trees were poured from this heat already.')]);
  const { liftLimitKg } = await settingsOf(ctx.store, ctx.tx);
  const weights = pourWeights(index, given, liftLimitKg);
  ctx.allow(await judgePlan(ctx, heat, index, given, weights));
  for (const { id: pouringId } of pourings) await ctx.remove('pourings', pouringId);
  for (const line of await loadRows<ChargeLine>(ctx.store, 'chargeLines', { heatId: id }, ctx.tx))
    await ctx.remove('chargeLines', line.id);
  await insertPlan(ctx, heat, given, weights);
  // A heat whose trees changed is not what the crew was asked about.
  await ctx.update(
    'heats',
    { ...heat, version: heat.version },
    {
      plannedFor: given.plannedFor,
      state: 'planned',
      leadId: null,
      crew: null,
      signs: null,
      coverConfirmedById: null,
      coverConfirmedAt: null,
    },
  );
  await touch(ctx, heat);
  concernHeat(ctx, index, heat, [...treeIds, ...pourings.map(({ treeId }) => treeId)]);
  ctx.event = {
    verb: 'change heat',
    text: `Heat H-${heat.number} changed: ${treeIds.length} trees, ${sum(weights).toFixed(1)} kg`,
    room: 'pour',
  };
  return { id };
}

/** Raises the heat's version although only its members changed, so that two people do not arrange it at once. */
async function touch(ctx: Context, heat: Heat): Promise<void> {
  const now = await ctx.find<Heat>('heats', heat.id);
  if (now?.version === heat.version)
    await ctx.store.db.query('UPDATE heat SET version = version + 1 WHERE id = ?', {
      replacements: [heat.id],
      transaction: ctx.tx,
    });
}

/** @throws Problem where part of the charge is not confirmed dry; nobody may pass that */
export async function refuseWetCharge(ctx: Context, heatId: Id): Promise<void> {
  const lines = await loadRows<ChargeLine>(ctx.store, 'chargeLines', { heatId }, ctx.tx);
  const wet = lines.filter(({ dry }) => !dry);
  if (wet.length > 0)
    throw refused([
      never(
        'wet',
        `Part of the charge is not confirmed dry (${wet.map(({ what, kg }) => `${what} ${kg} kg`).join(', ')}). A wet charge is never melted.`,
      ),
    ]);
}

/** Records one tree of a heat as poured, short, run out or not poured. */
export async function pourTree(ctx: Context, id: Id, given: PourTree): Promise<{ id: Id; flags: readonly string[] }> {
  const { heat, pourings, index } = await claimHeat(ctx, id, given.version, given);
  const pouring = pourings.find(({ treeId }) => treeId === given.treeId);
  const step = pouring && pourStepOf(index, given.treeId);
  if (!pouring) throw notFound('tree in this heat');
  if (pouring.outcome !== null || !step)
    throw refused([
      never('closed', `${treeLabel(index, given.treeId)} is recorded as ${pouring.outcome ?? 'poured'} already.`),
    ]);
  checkTimes(ctx, given.startedAt, given.endedAt);
  await checkPeople(ctx, given.by);
  const really = given.outcome !== 'not poured';
  if (really) {
    await refuseWetCharge(ctx, id);
    const refusals: Refusal[] = judgeWet(index, step);
    const lines = await loadRows<ChargeLine>(ctx.store, 'chargeLines', { heatId: id }, ctx.tx);
    if (lines.length === 0)
      refusals.push(never('state', 'Nothing is charged yet: write down what went into the crucible.'));
    if (heat.coverConfirmedById === null)
      refusals.push(unless('crew', 'Crew and cover are not confirmed for this heat.'));
    if (refusals.length > 0) ctx.allow(refusals);
  }
  const { version: _, treeId: __, override: ___, ...said } = given;
  const { ops, closing } = closeJudged(ctx, index, step, said);
  concernStep(ctx, index, step);
  await carryOut(ctx, index.shop, ops);
  const reading = (key: string) =>
    typeof closing.readings[key] === 'number' ? (closing.readings[key] as number) : null;
  await ctx.update('pourings', pouring, {
    outcome: given.outcome as Pouring['outcome'],
    pouredKg: reading('pouredKg'),
    metalC: reading('metalC'),
    tempWhere: (closing.readings['tempWhere'] as string | undefined) ?? null,
    startedAt: given.startedAt ?? given.endedAt,
    seconds: reading('seconds'),
  });
  await ctx.update('heats', heat, {
    state: 'running',
    startedAt: heat.startedAt ?? given.startedAt ?? given.endedAt,
  });
  await touch(ctx, heat);
  ctx.concern('heat', id);
  ctx.event = {
    verb: 'pour',
    text: `H-${heat.number} · ${closedInWords(index, step, closing)}`,
    room: 'pour',
    doneAt: given.endedAt,
    bad: given.outcome !== 'poured',
  };
  return { id, flags: closing.flags };
}

/** The heat is over: what is left is pigged and counts as returns. */
export async function finishHeat(ctx: Context, id: Id, given: FinishHeat): Promise<{ id: Id }> {
  const { heat, pourings, index } = await claimHeat(ctx, id, given.version, given);
  const open = pourings.filter(({ outcome }) => outcome === null);
  if (open.length > 0)
    throw refused([
      never('order', `Say first how it went with ${open.map(({ treeId }) => treeLabel(index, treeId)).join(', ')}.`),
    ]);
  if (pourings.length === 0) throw refused([never('state', 'No tree was poured from this heat; abandon it instead.')]);
  checkTimes(ctx, heat.startedAt, given.endedAt);
  await checkPeople(ctx, given.by);
  const charged = sum(
    (await loadRows<ChargeLine>(ctx.store, 'chargeLines', { heatId: id }, ctx.tx)).map(({ kg }) => kg),
  );
  const left = charged - sum(pourings.map(({ pouredKg }) => pouredKg ?? 0));
  if (given.pigKg > left + 0.5)
    throw invalid({ pigKg: `${given.pigKg} kg is more than was left (${Math.max(0, left).toFixed(1)} kg)` });
  const melt = plannedStep(ctx.newId, 'melt', 'heat', id, {
    state: 'done',
    startedAt: heat.startedAt,
    endedAt: given.endedAt,
    by: [...given.by],
    recordedBy: ctx.actor?.id ?? null,
    outcome: 'done',
    readings: { pigKg: given.pigKg },
    note: given.note,
  });
  await ctx.insert('steps', [melt]);
  await ctx.update('heats', heat, { state: 'done', endedAt: given.endedAt, pigKg: given.pigKg });
  concernHeat(
    ctx,
    index,
    heat,
    pourings.map(({ treeId }) => treeId),
  );
  ctx.event = {
    verb: 'finish heat',
    text: `Heat H-${heat.number} over: ${pourings.length} trees, ${given.pigKg.toFixed(1)} kg pigged`,
    room: 'pour',
    doneAt: given.endedAt,
  };
  return { id };
}

/** The heat is given up: trees not yet poured wait for another one. */
export async function abandonHeat(ctx: Context, id: Id, given: Abandon): Promise<{ id: Id }> {
  const { heat, pourings, index } = await claimHeat(ctx, id, given.version, given);
  for (const pouring of pourings.filter(({ outcome }) => outcome === null))
    await ctx.update('pourings', pouring, { outcome: 'not poured' });
  await ctx.update('heats', heat, { state: 'abandoned', reason: given.reason, endedAt: ctx.now });
  concernHeat(
    ctx,
    index,
    heat,
    pourings.map(({ treeId }) => treeId),
  );
  ctx.event = {
    verb: 'abandon heat',
    text: `Heat H-${heat.number} abandoned: ${given.reason}`,
    room: 'pour',
    reason: given.reason,
    bad: true,
  };
  return { id };
}
