import { alloyOf } from '../materials/alloys.ts';
import type { Id } from '../records/common.ts';
import type { Concern } from '../records/history.ts';
import type { ChargeLine, Heat, Pouring, TreeReady } from '../records/pour.ts';
import type { ChangeHeat, HeatPlan, PlanHeat } from '../records/pour-writes.ts';
import type { Refusal } from '../records/refusal.ts';
import { never } from '../records/refusal.ts';
import type { Op } from '../records/shop.ts';
import { insert, remove, update } from '../records/shop.ts';
import type { Step } from '../records/step.ts';
import { isOpen } from '../records/step.ts';
import { doubtsOfCharge } from '../pour/doubts-of-charge.ts';
import { judgeAlloys, judgeCrucible } from '../pour/judge-charge.ts';
import type { MetalAtHand } from '../pour/judge-metal.ts';
import { asksForAddition, judgeMetal } from '../pour/judge-metal.ts';
import type { Pot } from '../pour/judge-pot.ts';
import { judgePot } from '../pour/judge-pot.ts';
import { judgeReady } from '../pour/judge-ready.ts';
import { chainOf } from '../route/chain.ts';
import { treeLabel } from '../route/labels.ts';
import type { ShopIndex } from '../route/shop-index.ts';
import type { Instant } from '../units/instant.ts';
import { kg } from '../units/quantity.ts';
import type { Text } from '../units/words.ts';
import { say } from '../units/words.ts';
import type { Act, Doing } from './act.ts';
import { allow, concernsOf, counted, invalidAct, refusedAct } from './act.ts';
import { heatCharge } from './heat-charge.ts';
import { treeFigures } from './tree-figures.ts';

/** The pour that a tree waits for. */
export const pourStepOf = (index: ShopIndex, treeId: Id): Step | undefined =>
  chainOf(index, treeId).find((step) => index.kind(step).through === 'heat' && isOpen(step));

export const heatIsOver = ({ state }: Heat): boolean => state === 'done' || state === 'abandoned';

/** Records of a heat's event: itself, and what hangs on its trees. */
export const concernsOfHeat = (index: ShopIndex, heatId: Id, treeIds: readonly Id[]): Concern[] => [
  ['heat', heatId],
  ...treeIds.flatMap((treeId): Concern[] => {
    const step = pourStepOf(index, treeId);
    return step ? concernsOf(index, step) : [['tree', treeId]];
  }),
];

export const sum = (values: readonly number[]): number => values.reduce((total, value) => total + value, 0);

/** A tree's pour weight in a plan, and where it comes from. */
type Planned = Pick<Pouring, 'plannedKg' | 'plannedSource' | 'plannedPlusMinusKg'>;

/** Pour weights as they stand now: a heat keeps those it was charged with. What nobody typed is worked out. */
function pourWeights(
  index: ShopIndex,
  { trees }: HeatPlan,
  liftLimitKg: number,
): { readonly weights: Planned[]; readonly fields: Record<string, Text> } {
  const fields: Record<string, Text> = {};
  const weights = trees.map(({ treeId, plannedKg }, i): Planned => {
    if (plannedKg !== undefined) return { plannedKg, plannedSource: 'typed', plannedPlusMinusKg: null };
    const found = index.tree.has(treeId) ? treeFigures(index, treeId, liftLimitKg).metal?.pourWeight : undefined;
    if (!found)
      fields[`trees.${i}.plannedKg`] = `the weight of ${treeLabel(index, treeId)} is not known: enter its pour weight`;
    return {
      plannedKg: found?.value ?? 0,
      plannedSource: found?.source === 'estimated' ? 'estimated' : 'computed',
      plannedPlusMinusKg: found?.plusMinus ?? null,
    };
  });
  return { weights, fields };
}

/** From when trees can be poured, as far as that is known. */
export type ReadyTrees = ReadonlyMap<Id, TreeReady>;

/** What a heat is planned with, beside its trees: what is left out is not judged. */
export interface HeatMeans {
  readonly ready?: ReadyTrees | undefined;
  /** Metal that lies there for it. */
  readonly metal?: MetalAtHand | undefined;
  /** The pot it is to be melted in, and what that takes. */
  readonly pot?: (Pot & { readonly id: Id; readonly holdsKg: number; readonly usableKg: number }) | undefined;
}

/** What a heat's trees and charge lines break. @param ready of those that are new to this hour */
function judgePlan(
  index: ShopIndex,
  heat: Heat,
  plan: HeatPlan,
  plannedKg: readonly number[],
  { ready = new Map(), metal, pot }: HeatMeans,
  now: Instant,
): Refusal[] {
  const hour = plan.plannedFor !== null && plan.plannedFor > now ? plan.plannedFor : now;
  const ids = plan.trees.map(({ treeId }) => treeId);
  const twice = ids.filter((id, i) => ids.indexOf(id) !== i);
  const asked = heatCharge(heat, plannedKg).charge.value;
  const inCrucible = Math.max(asked, sum(plan.chargeLines.map((line) => line.kg)));
  const broken = [
    ...twice.map((id) => never('twice', say`${treeLabel(index, id)} is in this heat twice.`)),
    ...[...new Set(ids)].flatMap((treeId) => judgeTree(index, heat, treeId)),
    ...(plan.plannedFor === null
      ? []
      : [...new Set(ids)].flatMap((id) => judgeReady(treeLabel(index, id), ready.get(id), hour))),
    ...judgeAlloys(heat.alloyId, plan.chargeLines),
    ...judgeCrucible(inCrucible, heat),
    ...(pot ? judgePot(alloyOf(heat.alloyId), pot) : []),
    ...(metal ? judgeMetal(heat.alloyId, plan.chargeLines, metal) : []),
  ];
  // A plan that breaks something is not asked about besides.
  return broken.length > 0
    ? broken
    : [...doubtsOfCharge(plan.chargeLines, asked), ...asksForAddition(heat.alloyId, plan.chargeLines)];
}

function judgeTree(index: ShopIndex, heat: Heat, treeId: Id): Refusal[] {
  const label = treeLabel(index, treeId);
  const { alloyId } = index.tree.get(treeId)!;
  const other = (index.pouringsOf.get(treeId) ?? []).find(
    ({ heatId, outcome }) =>
      heatId !== heat.id && outcome === null && index.heat.has(heatId) && !heatIsOver(index.heat.get(heatId)!),
  );
  return [
    ...(alloyId === heat.alloyId
      ? []
      : [never('alloy', say`${label} is ${alloyOf(alloyId).name}, this heat ${alloyOf(heat.alloyId).name}.`)]),
    ...(pourStepOf(index, treeId) ? [] : [never('state', say`${label} has nothing to be poured.`)]),
    ...(other ? [never('twice', say`${label} is in heat H-${index.heat.get(other.heatId)!.number} already.`)] : []),
  ];
}

/** What is wrong with a plan before it is judged: it names no tree, or one that is not there. */
function wrongTrees(index: ShopIndex, { trees }: HeatPlan): Record<string, Text> {
  if (trees.length === 0) return { trees: 'a heat needs at least one tree; abandon it where there is none' };
  return trees.every(({ treeId }) => index.tree.has(treeId)) ? {} : { trees: 'names a tree that is not there' };
}

function placesOf(heatId: Id, plan: HeatPlan, weights: readonly Planned[], doing: Doing): Op[] {
  return [
    ...plan.trees.map(({ treeId }, i) =>
      insert('pourings', {
        id: doing.newId(),
        heatId,
        treeId,
        order: i + 1,
        ...weights[i]!,
        pouredKg: null,
        metalC: null,
        tempWhere: null,
        startedAt: null,
        seconds: null,
        outcome: null,
        place: null,
        outAt: null,
        stepId: null,
        version: 1,
      }),
    ),
    ...plan.chargeLines.map((line): Op => {
      const row: ChargeLine = { ...line, id: doing.newId(), heatId, version: 1 };
      return insert('chargeLines', row);
    }),
  ];
}

/** Plans a heat: its trees in pouring order with their pour weights, and what goes into the crucible. */
export function planHeat(
  index: ShopIndex,
  given: PlanHeat,
  doing: Doing,
  means: HeatMeans = {},
): Act<{ id: Id; number: number }> {
  const { settings } = doing;
  const { pot } = means;
  const heat: Heat = {
    id: given.id,
    number: 0,
    alloyId: given.alloyId,
    state: 'planned',
    plannedFor: given.plannedFor,
    holdsKg: pot?.holdsKg ?? settings.crucibleHoldsKg,
    usableKg: pot?.usableKg ?? settings.crucibleUsableKg,
    meltLoss: settings.meltLoss,
    pigReserveKg: settings.pigReserveKg,
    startedAt: null,
    endedAt: null,
    leadId: null,
    crew: null,
    signs: null,
    coverConfirmedById: null,
    coverConfirmedAt: null,
    checks: null,
    pigKg: null,
    crucibleId: pot?.id ?? null,
    litAt: null,
    energyKwh: null,
    meterFrom: null,
    reason: null,
    version: 1,
  };
  const arranged = arrange(index, heat, given, doing, means);
  if ('stop' in arranged) return arranged.stop as Act<{ id: Id; number: number }>;
  const { weights, passed } = arranged;
  return {
    refusals: [],
    fields: {},
    passed,
    ops: [insert('heats', heat), ...placesOf(heat.id, given, weights, doing)],
    answer: { id: heat.id, number: 0 },
    tell: (after) => ({
      event: {
        verb: 'plan heat',
        text: say`Heat H-${after.heat.get(heat.id)?.number ?? 0} planned: ${counted(given.trees.length, 'tree')}, ${kg(sum(weights.map(({ plannedKg }) => plannedKg)))}`,
        room: 'pour',
      },
      concerns: concernsOfHeat(
        index,
        heat.id,
        given.trees.map(({ treeId }) => treeId),
      ),
    }),
  };
}

type Arranged = { readonly weights: Planned[]; readonly passed: Act['passed'] } | { readonly stop: Act };

function arrange(
  index: ShopIndex,
  heat: Heat,
  given: HeatPlan & { override?: unknown },
  doing: Doing,
  means: HeatMeans,
): Arranged {
  const wrong = wrongTrees(index, given);
  if (Object.keys(wrong).length > 0) return { stop: invalidAct(wrong) };
  const { weights, fields } = pourWeights(index, given, doing.settings.liftLimitKg);
  if (Object.keys(fields).length > 0) return { stop: invalidAct(fields) };
  const refusals = judgePlan(
    index,
    heat,
    given,
    weights.map(({ plannedKg }) => plannedKg),
    means,
    doing.now,
  );
  const { left, passed } = allow(refusals, doing);
  return left.length > 0 ? { stop: refusedAct(left) } : { weights, passed };
}

/** Changes a heat's trees, their order and the charge, as long as nothing was poured. */
export function changeHeat(
  index: ShopIndex,
  heat: Heat,
  given: ChangeHeat,
  doing: Doing,
  means: HeatMeans = {},
): Act<{ id: Id }> {
  const { pot } = means;
  const before = index.inHeat.get(heat.id) ?? [];
  if (heatIsOver(heat)) return refusedAct([never('closed', say`Heat H-${heat.number} is ${heat.state} already.`)]);
  if (before.some(({ outcome }) => outcome !== null))
    return refusedAct([never('closed', 'Trees were poured from this heat already.')]);
  // What stood in it for this hour already was asked about then, and is asked about on the Floor.
  const stood = heat.plannedFor === given.plannedFor ? new Set(before.map(({ treeId }) => treeId)) : new Set<Id>();
  const fresh = new Map([...(means.ready ?? [])].filter(([id]) => !stood.has(id)));
  const changed = pot ? { ...heat, holdsKg: pot.holdsKg, usableKg: pot.usableKg } : heat;
  const arranged = arrange(index, changed, given, doing, { ...means, ready: fresh });
  if ('stop' in arranged) return arranged.stop as Act<{ id: Id }>;
  const { weights, passed } = arranged;
  const treeIds = given.trees.map(({ treeId }) => treeId);
  return {
    refusals: [],
    fields: {},
    passed,
    ops: [
      ...before.map(({ id }) => remove('pourings', id)),
      ...(index.chargeOf.get(heat.id) ?? []).map(({ id }) => remove('chargeLines', id)),
      ...placesOf(heat.id, given, weights, doing),
      // A heat whose trees changed is not what the crew was asked about.
      update('heats', heat.id, {
        ...(pot ? { crucibleId: pot.id, holdsKg: pot.holdsKg, usableKg: pot.usableKg } : {}),
        checks: null,
        plannedFor: given.plannedFor,
        state: 'planned',
        leadId: null,
        crew: null,
        signs: null,
        coverConfirmedById: null,
        coverConfirmedAt: null,
        version: heat.version + 1,
      }),
    ],
    answer: { id: heat.id },
    tell: () => ({
      event: {
        verb: 'change heat',
        text: say`Heat H-${heat.number} changed: ${counted(treeIds.length, 'tree')}, ${kg(sum(weights.map(({ plannedKg }) => plannedKg)))}`,
        room: 'pour',
      },
      concerns: concernsOfHeat(index, heat.id, [...treeIds, ...before.map(({ treeId }) => treeId)]),
    }),
  };
}
