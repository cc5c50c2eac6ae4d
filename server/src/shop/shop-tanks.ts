import type { Tank, TankCheck, TankDecision, TankStand } from '@kalvet/core';
import { tankStand } from '@kalvet/core';
import type { Transaction } from 'sequelize';
import { rowsOf } from '../db/rows.ts';
import type { Store } from '../write/store.ts';

/** Everything that was written down of the tanks. */
export interface TankRecords {
  readonly tanks: readonly Tank[];
  readonly checks: readonly TankCheck[];
  readonly decisions: readonly TankDecision[];
}

/** The tanks, face before back-up, with every check and decision. */
export async function tankRecords(store: Store, tx?: Transaction): Promise<TankRecords> {
  const tanks = await rowsOf<Tank>(store, 'tanks', {}, tx);
  if (tanks.length === 0) return { tanks: [], checks: [], decisions: [] };
  const [checks, decisions] = await Promise.all([
    rowsOf<TankCheck>(store, 'tankChecks', { voidReason: null }, tx),
    rowsOf<TankDecision>(store, 'tankDecisions', { voidReason: null }, tx),
  ]);
  const order = ({ slurry, name }: Tank) => `${slurry === 'face' ? 0 : 1}${name}`;
  return { tanks: tanks.sort((a, b) => order(a).localeCompare(order(b))), checks, decisions };
}

/** How the tanks stand that are in use; undefined where the shop has entered none. */
export async function shopTanks(store: Store, tx?: Transaction): Promise<readonly TankStand[] | undefined> {
  const { tanks, checks, decisions } = await tankRecords(store, tx);
  const stands = tanks.filter(({ state }) => state === 'in use').map((tank) => tankStand(tank, checks, decisions));
  return stands.length > 0 ? stands : undefined;
}
