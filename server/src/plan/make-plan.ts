import type {
  Calendar,
  Heat,
  Id,
  Instant,
  PlanNote,
  PlanOptions,
  PlanSnapshot,
  PlannedPiece,
  Resource,
  ShopPlan,
} from '@kalvet/core';
import { dueMinute, inShopWords, indexShop, planShop } from '@kalvet/core';
import { QueryTypes } from 'sequelize';
import { asInstant } from '../db/tables.ts';
import { changeNumber } from '../live/changes.ts';
import { settingsOf } from '../people/settings.ts';
import { loadRows, loadShop } from '../shop/load.ts';
import type { Store } from '../write/context.ts';
import { newId } from '../write/context.ts';
import { sqlInstant, write } from '../write/write.ts';
import { ordersOf, withOrderDue } from '../work/orders.ts';
import { WallClock } from './wall-clock.ts';

/** Plans that stay readable beside the one in use. */
const KEPT_PLANS = 5;
/** Planned steps in one statement. */
const CHUNK = 1000;

export interface MadePlan {
  readonly planId: Id | null;
  readonly status: string;
  readonly steps: number;
  readonly ms: number;
}

/**
 * Makes a plan from the records as they are and takes it into use: one event, no step's version raised. Where no plan can
 * be made the one before stays, and the answer says why. Runs in a worker thread; it is heavy.
 * @param seconds how long the first schedule is made better
 */
export async function makePlan(store: Store, now: Instant, { seconds = 0 } = {}): Promise<MadePlan> {
  const began = Date.now();
  const basis = await changeNumber(store);
  const { snapshot, clock } = await planSnapshot(store, now);
  const { pieces } = snapshot.index.shop;
  const plan = planShop(snapshot, within(seconds));
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
  const dated = plannedPieces(plan, clock, pieces);
  const planId = newId(Date.parse(now));
  await keep(store, { planId, basis, now, began, plan, pieces: dated, clock });
  return { planId, status, steps: plan.steps.length, ms: Date.now() - began };
}

/** So long a plan is made better, by the machine's clock; where it is no time at all, the first one found is taken. */
export function within(seconds: number): PlanOptions {
  if (seconds <= 0) return {};
  const until = performance.now() + seconds * 1000;
  return { more: () => performance.now() < until };
}

/** Everything a plan is made from, as the records are now. */
export async function planSnapshot(
  store: Store,
  now: Instant,
): Promise<{ readonly snapshot: PlanSnapshot; readonly clock: WallClock }> {
  const settings = await settingsOf(store);
  const works = await loadRows<{ id: Id }>(store, 'works', {});
  const shop = await loadShop(store, { workIds: works.map(({ id }) => id) });
  const heats = await loadRows<Heat>(store, 'heats', { state: ['planned', 'charged', 'running'] });
  const clock = new WallClock(now, settings.timeZone);
  const pieces = withOrderDue(shop.pieces, await ordersOf(store));
  const snapshot: PlanSnapshot = {
    index: indexShop({ ...shop, heats, pieces }),
    settings,
    calendars: await loadRows<Calendar>(store, 'calendars', {}),
    resources: await loadRows<Resource>(store, 'resources', {}),
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
  const rows = await store.db.query<{ stepId: Id; startsAt: Date | string; load_: string | null }>(
    `SELECT p.stepId, p.startsAt, p.load_ FROM planned_step p
       JOIN plan ON plan.id = p.planId AND plan.state = 'current' JOIN step s ON s.id = p.stepId
      WHERE s.state IN ('planned', 'running')
        AND NOT EXISTS (SELECT 1 FROM event_subject e WHERE e.subject = p.stepId AND e.number > plan.basis)`,
    { type: QueryTypes.SELECT },
  );
  return rows.map(({ stepId, startsAt, load_ }) => ({
    stepId,
    start: clock.minuteOf(asInstant(startsAt)),
    load: load_,
  }));
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
}

async function keep(store: Store, { planId, basis, now, began, plan, pieces, clock }: Keeping): Promise<void> {
  const notes: readonly PlanNote[] = plan.notes.slice(0, 200);
  await write(store, { actor: null, now, requestId: planId }, async (ctx) => {
    const query = (sql: string, replacements: unknown[]) => store.db.query(sql, { replacements, transaction: ctx.tx });
    await query("UPDATE plan SET state = 'superseded' WHERE state = 'current'", []);
    await query(
      "INSERT INTO plan (id, basis, state, madeAt, tookMs, notes, pieces) VALUES (?, ?, 'current', ?, ?, ?, ?)",
      [planId, basis, sqlInstant(now), Date.now() - began, JSON.stringify(notes), JSON.stringify(pieces)],
    );
    for (let from = 0; from < plan.steps.length; from += CHUNK) {
      const part = plan.steps.slice(from, from + CHUNK);
      await query(
        `INSERT INTO planned_step (planId, stepId, startsAt, endsAt, load_) VALUES ${part.map(() => '(?,?,?,?,?)').join(',')}`,
        part.flatMap(({ stepId, start, end, load }) => [
          planId,
          stepId,
          sqlInstant(clock.instantOf(start)),
          sqlInstant(clock.instantOf(end)),
          load,
        ]),
      );
    }
    const old = await ctx.select<{ id: Id }>('SELECT id FROM plan ORDER BY madeAt DESC, id DESC LIMIT 1000 OFFSET ?', [
      KEPT_PLANS,
    ]);
    if (old.length > 0) await query('DELETE FROM plan WHERE id IN (?)', [old.map(({ id }) => id)]);
    await query(
      "UPDATE computation SET state = 'done', leaseUntil = NULL, attempts = 0, basis = ?, error = NULL, at = ? WHERE kind = 'plan'",
      [basis, sqlInstant(now)],
    );
    ctx.event = { verb: 'take plan', text: `Dates planned anew: ${plan.steps.length} steps, ${pieces.length} pieces` };
    return {};
  });
}

/** Notes how the planning stands, so that every server and screen knows. */
export async function setComputation(
  store: Store,
  { state, basis, now, error }: { state: 'failed'; basis: number; now: Instant; error: string },
): Promise<void> {
  await store.db.query(
    "UPDATE computation SET state = ?, leaseUntil = NULL, basis = ?, error = ?, at = ? WHERE kind = 'plan'",
    { replacements: [state, basis, error.slice(0, 1000), sqlInstant(now)] },
  );
}
