import type { ChartLimits } from '../units/chart.ts';
import type { Instant } from '../units/instant.ts';
import type { SupplyMovement, SupplyStock } from './supplies.ts';
import type { ChartedCheck, Tank, TankStand } from './tanks.ts';

/** A tank as its page shows it. */
export interface TankView {
  readonly tank: Tank;
  readonly stand: TankStand;
  readonly limits: ChartLimits | null;
  /** The last ones, in the order of time, each with who checked. */
  readonly checks: readonly (ChartedCheck & { readonly by: string })[];
  readonly decisions: readonly {
    readonly at: Instant;
    readonly words: string;
    readonly coatsStand: boolean;
    readonly by: string;
  }[];
  /** What is in it now, kg; null where no level was ever read. */
  readonly holdsKg: number | null;
  readonly fullKg: number;
  /** Real use by what the coats take by the sum, and from how many pairs of levels. */
  readonly use: { readonly factor: number; readonly n: number } | null;
  /** When it falls below what can be dipped in, by the plan; null where it lasts as far as is planned. */
  readonly lastsUntil: Instant | null;
  /** Coats dipped in it that are in doubt still. */
  readonly inDoubt: number;
}

export interface TanksAnswer {
  readonly change: number;
  readonly now: Instant;
  readonly tanks: readonly TankView[];
  readonly stock: readonly SupplyStock[];
  /** The newest first. */
  readonly movements: readonly SupplyMovement[];
}
