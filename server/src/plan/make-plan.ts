import type {
  Calendar,
  HandsWeeks,
  Id,
  Instant,
  Learned,
  Likely,
  Person,
  Piece,
  PlanNote,
  PlanSnapshot,
  PlannedPiece,
  Resource,
  ShopPlan,
  Staffing,
  StepKindCode,
  ToldPlan,
  TreeReady,
} from '@kalvet/core';
import {
  dayIn,
  dueMinute,
  inShopWords,
  indexShop,
  isOpen,
  learnedHours,
  listUnder,
  planKeepingWord,
  promiseDates,
  triesFor,
  weeksOf,
} from '@kalvet/core';
import { Op } from 'sequelize';
import { changeNumber } from '../live/changes.ts';
import { settingsOf } from '../people/settings.ts';
import { loadShop, loadWholeShop } from '../shop/load.ts';
import { rowsOf } from '../db/rows.ts';
import { write } from '../shop/write-shop.ts';
import type { Context } from '../write/context.ts';
import { newId } from '../write/new-id.ts';
import type { Store } from '../write/store.ts';
import { ordersOf, withOrderDue } from '../work/orders.ts';
import { readyTrees } from './ready-trees.ts';
import { WallClock } from './wall-clock.ts';

/** Plans that stay readable beside the one in use. */
const KEPT_PLANS = 8;
/** So many days gone by keep their last plan. */
const DAYS_KEPT = 7;
/** Of these so many are looked at for dates that can be kept again. */
const OLDER_TRIED = 3;
const MOST_STEPS_TWICE = 8000;
/** Runs that dates with their chances are worked out from; fewer in a large shop, where one takes longer. */
const MOST_RUNS = 120;
const LEAST_RUNS = 20;
const RUN_TASKS = 200_000;
const promiseRuns = (tasks: number, effort: number): number =>
  Math.max(LEAST_RUNS, Math.round(Math.min(MOST_RUNS, RUN_TASKS / Math.max(1, tasks)) * Math.min(1, effort)));
/** Planned steps in one statement. */
const CHUNK = 1000;

const likelyOf = (likely: ReadonlyMap<Id, Likely>, pieceId: Id, assumes?: Instant): { likely?: Likely } => {
  const found = likely.get(pieceId);
  return found ? { likely: assumes === undefined ? found : { ...found, assumes } } : {};
};

/** Pieces by the order that they are in: it is ready when its last one is. */
function inOrders(pieces: readonly Piece[]): { readonly id: Id; readonly jobs: readonly Id[] }[] {
  const orders = new Map<Id, Id[]>();
  for (const { id, orderId } of pieces) if (orderId !== null) listUnder(orders, orderId, id);
  return [...orders].map(([id, jobs]) => ({ id, jobs }));
}

export interface MadePlan {
  readonly planId: Id | null;
  readonly status: string;
  readonly steps: number;
  readonly ms: number;
}

/**
 * Makes a plan from the records as they are and takes it into use: one event, no step's version raised. Where no plan can
 * be made the one before stays, and the answer says why. Runs in a worker thread; it is heavy.
 * @param effort how many of the usual tries it is made better with; none where 0
 */
export async function makePlan(store: Store, now: Instant, { effort = 0 } = {}): Promise<MadePlan> {
  const began = Date.now();
  const basis = await changeNumber(store);
  const { snapshot, clock } = await planSnapshot(store, now);
  const { pieces } = snapshot.index.shop;
  const older = await olderPlans(store, clock, new Set(snapshot.index.shop.steps.filter(isOpen).map(({ id }) => id)));
  const tries = Math.round(effort * triesFor(snapshot.index.shop.steps.filter(isOpen).length));
  const plan = planKeepingWord(snapshot, { older, tries });
  const { status, messages } = plan.schedule;
  if (status !== 'feasible') {
    await setComputation(store, {
      state: 'failed',
      basis,
      now,
      error: messages[0] ? inShopWords(snapshot, messages[0].text) : status,
    });
    return { planId: null, status, steps: 0, ms: Date.now() - began };
  }
  // Beside the plan, in this thread: nobody waits for it.
  const runs = promiseRuns(plan.problem.tasks.length, effort);
  const { jobs, together } = promiseDates(plan.problem, plan.schedule, {
    runs,
    lived: true,
    together: inOrders(pieces),
  });
  const likelyIn = (list: typeof together) =>
    list.map(({ id, p50, p90 }) => [id, { evenAt: clock.instantOf(p50), ninetyAt: clock.instantOf(p90) }] as const);
  const likely = new Map(likelyIn(jobs));
  const assumes = clock.instantOf(plan.undecided.decided);
  const dated = plannedPieces(plan, clock, pieces).map((piece) => ({
    ...piece,
    ...likelyOf(likely, piece.pieceId, plan.undecided.pieces.has(piece.pieceId) ? assumes : undefined),
  }));
  const planId = newId(Date.parse(now));
  await keep(store, {
    planId,
    basis,
    now,
    began,
    plan,
    pieces: dated,
    clock,
    learned: [...(snapshot.learned ?? [])],
    orders: likelyIn(together),
    ready: [
      ...readyTrees(
        snapshot,
        clock,
        snapshot.index.shop.trees.map(({ id }) => id),
      ),
    ],
    weeks: weeksOf(plan, {
      people: snapshot.resources.filter(({ kind }) => kind === 'people').map(({ id }) => id),
      startDay: clock.startDay,
      now: clock.minuteOf(now),
    }),
  });
  return { planId, status, steps: plan.steps.length, ms: Date.now() - began };
}

/** Everything a plan is made from, as the records are now. */
export async function planSnapshot(
  store: Store,
  now: Instant,
): Promise<{ readonly snapshot: PlanSnapshot; readonly clock: WallClock }> {
  const settings = await settingsOf(store);
  const works = await rowsOf<{ id: Id }>(store, 'works', {});
  const shop = await loadShop(store, { workIds: works.map(({ id }) => id) });
  const clock = new WallClock(now, settings.timeZone);
  const pieces = withOrderDue(shop.pieces, await ordersOf(store));
  const snapshot: PlanSnapshot = {
    index: indexShop({ ...shop, pieces }),
    settings,
    learned: learnedHours(indexShop(await loadWholeShop(store))),
    calendars: await rowsOf<Calendar>(store, 'calendars', {}),
    resources: await rowsOf<Resource>(store, 'resources', {}),
    staffing: await rowsOf<Staffing>(store, 'staffing', {}),
    people: await rowsOf<Person>(store, 'people', { active: true }),
    startDay: clock.startDay,
    minuteOf: clock.minuteOf,
    now,
    previous: await previousStarts(store, clock),
  };
  return { snapshot, clock };
}

/**
 * Where the plan in use has the steps that are not done. One that somebody changed since, a pin taken away, has no place
 * to keep.
 */
async function previousStarts(store: Store, clock: WallClock): Promise<NonNullable<PlanSnapshot['previous']>> {
  const [plan] = await rowsOf<{ id: Id; basis: number }>(store, 'plans', { state: 'current' });
  if (!plan) return [];
  const [planned, open, changed] = await Promise.all([
    rowsOf<Planned>(store, 'plannedSteps', { planId: plan.id }),
    store.models.steps.findAll({ where: { state: ['planned', 'running'] }, attributes: ['id'], raw: true }),
    rowsOf<{ subject: Id }>(store, 'eventSubjects', { number: { [Op.gt]: plan.basis }, kind: 'step' }),
  ]);
  const still = new Set((open as unknown as { id: Id }[]).map(({ id }) => id));
  const since = new Set(changed.map(({ subject }) => subject));
  return planned.filter(({ stepId }) => still.has(stepId) && !since.has(stepId)).map((each) => toldStep(each, clock));
}

const toldStep = ({ stepId, startsAt, load_, parts }: Planned, clock: WallClock): ToldPlan[number] => ({
  stepId,
  start: clock.minuteOf(startsAt),
  load: load_,
  parts: parts?.map((at) => clock.minuteOf(at)) ?? null,
});

/** Further plans that were told, the newest first; the very large ones are not worth their reading. */
async function olderPlans(store: Store, clock: WallClock, open: ReadonlySet<Id>): Promise<ToldPlan[]> {
  if (open.size > MOST_STEPS_TWICE) return [];
  const plans = await store.models.plans.findAll({
    where: { state: 'superseded' },
    attributes: ['id'],
    order: [['taken', 'DESC']],
    limit: OLDER_TRIED,
    raw: true,
  });
  const told: ToldPlan[] = [];
  for (const { id } of plans as unknown as { id: Id }[]) {
    const planned = await rowsOf<Planned>(store, 'plannedSteps', { planId: id });
    told.push(planned.filter(({ stepId }) => open.has(stepId)).map((each) => toldStep(each, clock)));
  }
  return told;
}

interface Planned {
  readonly stepId: Id;
  readonly startsAt: Instant;
  readonly load_: string | null;
  readonly parts: readonly Instant[] | null;
}

/** When each piece is out, by its own steps and those of its sections. */
export function plannedPieces(
  plan: ShopPlan,
  clock: WallClock,
  pieces: readonly { readonly id: Id; readonly dueDate: string | null }[],
): PlannedPiece[] {
  const at = new Map(plan.steps.map((step) => [step.stepId, step]));
  const spans = new Map<string, { start: number; end: number }>();
  for (const { id, job } of plan.problem.tasks) {
    const step = at.get(id);
    if (!step) continue;
    const span = spans.get(job) ?? { start: Infinity, end: -Infinity };
    spans.set(job, { start: Math.min(span.start, step.start), end: Math.max(span.end, step.end) });
  }
  return pieces.flatMap((piece): PlannedPiece[] => {
    const span = spans.get(piece.id);
    if (!span) return [];
    const due = dueMinute(clock.startDay, piece);
    return [
      {
        pieceId: piece.id,
        startsAt: clock.instantOf(span.start),
        finishesAt: clock.instantOf(span.end),
        lateDays: due === undefined ? 0 : Math.max(0, Math.ceil((span.end - due) / 1440)),
      },
    ];
  });
}

interface Keeping {
  readonly planId: Id;
  readonly basis: number;
  readonly now: Instant;
  readonly began: number;
  readonly plan: ShopPlan;
  readonly pieces: readonly PlannedPiece[];
  readonly clock: WallClock;
  readonly learned: readonly (readonly [kind: StepKindCode, learned: Learned])[];
  readonly orders: readonly (readonly [orderId: Id, likely: Likely])[];
  readonly weeks: readonly HandsWeeks[];
  readonly ready: readonly (readonly [treeId: Id, ready: TreeReady])[];
}

async function keep(
  store: Store,
  { planId, basis, now, began, plan, pieces, clock, learned, orders, weeks, ready }: Keeping,
): Promise<void> {
  const notes: readonly PlanNote[] = plan.notes.slice(0, 200);
  await write(store, { actor: null, now, requestId: planId }, async (ctx) => {
    const { models } = store;
    const transaction = ctx.tx;
    await models.plans.update({ state: 'superseded' }, { where: { state: 'current' }, transaction });
    await models.plans.create(
      {
        id: planId,
        basis,
        state: 'current',
        madeAt: now,
        tookMs: Date.now() - began,
        notes,
        pieces,
        learned,
        orders,
        weeks,
        ready,
        taken: 0,
      },
      { transaction },
    );
    for (let from = 0; from < plan.steps.length; from += CHUNK)
      await models.plannedSteps.bulkCreate(
        plan.steps.slice(from, from + CHUNK).map(({ stepId, start, end, load, parts, partEnds, resourceId }) => ({
          planId,
          stepId,
          startsAt: clock.instantOf(start),
          endsAt: clock.instantOf(end),
          load_: load,
          parts: parts?.map((minute) => clock.instantOf(minute)) ?? null,
          partEnds: partEnds?.map((minute) => clock.instantOf(minute)) ?? null,
          resourceId,
        })),
        { transaction },
      );
    await models.computations.update(
      { state: 'done', leaseUntil: null, attempts: 0, basis, error: null, at: now },
      { where: { kind: 'plan' }, transaction },
    );
    ctx.onKept = async (taken) => {
      await models.plans.update({ taken }, { where: { id: planId }, transaction });
      await dropOld(ctx);
    };
    ctx.event = { verb: 'take plan', text: `Dates planned anew: ${plan.steps.length} steps, ${pieces.length} pieces` };
    return {};
  });
}

/**
 * Plans are old by the change they were taken with: a clock that was set back makes no new one old. Of days gone by the last
 * plan of each stays for a week: what moved since is told against it.
 */
async function dropOld({ store, tx }: Context): Promise<void> {
  const kept = await store.models.plans.findAll({
    attributes: ['id', 'madeAt'],
    order: [
      ['taken', 'DESC'],
      ['id', 'DESC'],
    ],
    raw: true,
    transaction: tx,
  });
  const plans = kept as unknown as { id: Id; madeAt: Date }[];
  const zone = (await settingsOf(store, tx)).timeZone;
  const lastOf = new Map<string, Id>();
  for (const { id, madeAt } of plans) {
    const day = dayIn(madeAt.toISOString(), zone);
    if (!lastOf.has(day) && lastOf.size <= DAYS_KEPT) lastOf.set(day, id);
  }
  const ids = [...plans.slice(0, KEPT_PLANS).map(({ id }) => id), ...lastOf.values()];
  await store.models.plans.destroy({ where: { id: { [Op.notIn]: ids } }, transaction: tx });
}

const LONGEST_ERROR = 1000;

/** Notes how the planning stands, so that every server and screen knows. */
export async function setComputation(
  store: Store,
  { state, basis, now, error }: { state: 'failed'; basis: number; now: Instant; error: string },
): Promise<void> {
  await store.models.computations.update(
    { state, leaseUntil: null, basis, error: error.slice(0, LONGEST_ERROR), at: now },
    { where: { kind: 'plan' } },
  );
}
