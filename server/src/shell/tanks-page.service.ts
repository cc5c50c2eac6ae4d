import type { LevelRead, Supply, Tank, TankCheck, TankView, TanksAnswer } from '@kalvet/core';
import {
  addMinutes,
  chartedChecks,
  lastsUntil,
  slurryKg,
  supplyMovements,
  supplyStock,
  tankHolds,
  tankLimits,
  tankStand,
} from '@kalvet/core';
import { rowsOf } from '../db/rows.ts';
import type { Server } from '../http/request.ts';
import { changeNumber } from '../live/changes.ts';
import { people } from '../people/person-of.ts';
import { settingsOf } from '../people/settings.ts';
import { currentPlan } from '../plan/read-plan.ts';
import { tankRecords } from '../shop/shop-tanks.ts';
import { coatsComing, coatsSince } from './coats-taken.ts';

const MOST_CHECKS = 60;
const MOST_MOVEMENTS = 80;
/** What was dipped longer ago says nothing of what is in a tank now; stocks are counted within that time. */
const BACK_MIN = 400 * 1440;

/** The tanks and the shelf of the shell room: how each stands, what is in it, and how long it lasts. */
export async function tanksPage({ store, now }: Server): Promise<TanksAnswer> {
  const [change, { tanks, checks, decisions }, plan, settings, staff, supplies] = await Promise.all([
    changeNumber(store),
    tankRecords(store),
    currentPlan(store),
    settingsOf(store),
    people(store),
    rowsOf<Supply>(store, 'supplies', { voidReason: null }),
  ]);
  const [coats, coming] = await Promise.all([
    coatsSince(store, addMinutes(now(), -BACK_MIN)),
    coatsComing(store, plan.stand.planId),
  ]);
  const nameOf = new Map(staff.map(({ id, shortName }) => [id, shortName]));
  const by = (id: string | null) => nameOf.get(id ?? '') ?? '';
  const view = (tank: Tank): TankView => {
    const charted = chartedChecks(tank, checks);
    const own = coats.filter(({ slurry }) => slurry === tank.slurry);
    const fullKg = tank.litres * tank.densityGPerCm3;
    const holds = tankHolds(
      levelsOf(
        charted.map(({ check }) => check),
        fullKg,
      ),
      own,
      now(),
    );
    const next = coming
      .filter(({ slurry }) => slurry === tank.slurry)
      .map((coat) => ({ at: coat.at, kg: slurryKg(coat) * (holds?.factor ?? 1) }));
    return {
      tank,
      stand: tankStand(tank, checks, decisions),
      limits: tankLimits(tank, checks),
      checks: charted.slice(-MOST_CHECKS).map((each) => ({ ...each, by: by(each.check.byId) })),
      decisions: decisions
        .filter(({ tankId }) => tankId === tank.id)
        .sort((a, b) => (a.at < b.at ? 1 : -1))
        .slice(0, 5)
        .map(({ at, words, coatsStand, byId }) => ({ at, words, coatsStand, by: by(byId) })),
      holdsKg: holds ? Math.max(0, holds.kg) : null,
      fullKg,
      use: holds && holds.n > 0 ? { factor: holds.factor, n: holds.n } : null,
      lastsUntil: holds ? lastsUntil(holds.kg, tank.leastShare * fullKg, next) : null,
      inDoubt: own.filter(({ inDoubt }) => inDoubt).length,
    };
  };
  // Stucco is booked from the first delivery or count on: what was dipped before came from nobody knows where.
  const booked = supplies.reduce((first, { at }) => (at < first ? at : first), now());
  const movements = supplyMovements(
    { supplies, tanks, checks: checks.filter(({ at }) => at >= booked), coats: coats.filter(({ at }) => at >= booked) },
    settings.timeZone,
  );
  return {
    change,
    now: now(),
    tanks: tanks.map(view),
    stock: supplyStock(movements, coming),
    movements: [...movements].reverse().slice(0, MOST_MOVEMENTS),
  };
}

const levelsOf = (checks: readonly TankCheck[], fullKg: number): LevelRead[] =>
  checks.flatMap(({ at, level, toppedUp }) =>
    level === null ? [] : [{ at, kg: level * fullKg, addedKg: toppedUp.reduce((sum, { kg }) => sum + kg, 0) }],
  );
