import type { KilnProfile, Load, LoadPlace } from './burnout.ts';
import type { OpenItem } from './chasing.ts';
import type { DrynessReading, ShopClimate } from './climate.ts';
import type { CoatPlan } from './coat-plan.ts';
import type { Id } from './common.ts';
import type { Mould, Pull } from './mould.ts';
import type { ChargeLine, Heat, HeatReading, Pouring } from './pour.ts';
import type { RouteTimes } from './route.ts';
import type { ShopSettings } from './settings.ts';
import type { Tree, TreeCast } from './sprue.ts';
import type { Step } from './step.ts';
import type { TankStand } from './tanks.ts';
import type { NamedCup } from './tree-stock.ts';
import type { Weight } from './wax.ts';
import type { Cast, Piece, Section, Work } from './work.ts';

/** The records that decide what may follow what: all of a shop, or the part of it that hangs together. */
export interface Shop {
  readonly works: readonly Work[];
  readonly sections: readonly Section[];
  readonly pieces: readonly Piece[];
  readonly moulds: readonly Mould[];
  readonly pulls: readonly Pull[];
  readonly casts: readonly Cast[];
  readonly trees: readonly Tree[];
  readonly treeCasts: readonly TreeCast[];
  readonly loads: readonly Load[];
  readonly loadPlaces: readonly LoadPlace[];
  readonly heats: readonly Heat[];
  readonly pourings: readonly Pouring[];
  readonly chargeLines: readonly ChargeLine[];
  readonly heatReadings: readonly HeatReading[];
  readonly steps: readonly Step[];
  readonly weights: readonly Weight[];
  readonly openItems: readonly OpenItem[];
  readonly drynessReadings: readonly DrynessReading[];
  /** The shop's own minutes and waits. */
  readonly routeTimes?: RouteTimes;
  /** The shop's pouring cups. */
  readonly cups?: readonly NamedCup[];
  /** How the shop shells, the usual plan first; as is usual where it has entered none. */
  readonly coatPlans?: readonly CoatPlan[];
  /** The shop's own kilograms of cast for one of wax, by alloy and wax. */
  readonly castFactors?: ShopSettings['castFactors'];
  /** The wall that a coat adds, mm. */
  readonly coatMm?: number;
  /** Dewax and firing are two things with a look between. */
  readonly inTwoStages?: boolean;
  /** How the slurry tanks stand; nothing where the shop has entered none. */
  readonly tanks?: readonly TankStand[];
  /** How the shop fires, in ramps and holds. */
  readonly profiles?: readonly KilnProfile[];
  /** The air that shells dry in; fixed hours where nobody reads it. */
  readonly climate?: ShopClimate;
}

export type Table = Exclude<
  keyof Shop,
  'routeTimes' | 'castFactors' | 'cups' | 'climate' | 'coatPlans' | 'tanks' | 'profiles' | 'coatMm' | 'inTwoStages'
>;

export type RowOf<T extends Table> = Shop[T][number];

/** One change to the records, as plain data: what core decides and the server carries out in its transaction. */
export type Op = {
  [T in Table]:
    | { readonly op: 'insert'; readonly table: T; readonly row: RowOf<T> }
    | { readonly op: 'update'; readonly table: T; readonly id: Id; readonly patch: Partial<RowOf<T>> }
    | { readonly op: 'delete'; readonly table: T; readonly id: Id };
}[Table];

export const EMPTY_SHOP: Shop = {
  works: [],
  sections: [],
  pieces: [],
  moulds: [],
  pulls: [],
  casts: [],
  trees: [],
  treeCasts: [],
  loads: [],
  loadPlaces: [],
  heats: [],
  pourings: [],
  chargeLines: [],
  heatReadings: [],
  steps: [],
  weights: [],
  openItems: [],
  drynessReadings: [],
};

/** An insert. */
export const insert = <T extends Table>(table: T, row: RowOf<T>): Op => ({ op: 'insert', table, row }) as Op;

/** A change of some fields. */
export const update = <T extends Table>(table: T, id: Id, patch: Partial<RowOf<T>>): Op =>
  ({ op: 'update', table, id, patch }) as Op;

/** Takes out a record that nothing was recorded on: a tree's place in a heat that is planned anew. */
export const remove = (table: Table, id: Id): Op => ({ op: 'delete', table, id }) as Op;

/** The shop after the changes; the one given stays as it is. Later changes see earlier ones. */
export function applyOps(shop: Shop, ops: readonly Op[]): Shop {
  const tables = new Map<Table, Map<Id, { id: Id }>>();
  const rowsOf = (table: Table) => {
    let rows = tables.get(table);
    if (!rows) {
      rows = new Map((shop[table] as readonly { id: Id }[]).map((row) => [row.id, row]));
      tables.set(table, rows);
    }
    return rows;
  };
  for (const op of ops) {
    const rows = rowsOf(op.table);
    if (op.op === 'insert') rows.set(op.row.id, op.row);
    else if (op.op === 'delete') rows.delete(op.id);
    else {
      const row = rows.get(op.id);
      if (!row) throw new Error(`no ${op.table} ${op.id} to change`);
      rows.set(op.id, { ...row, ...op.patch });
    }
  }
  const changed = Object.fromEntries([...tables].map(([table, rows]) => [table, [...rows.values()]]));
  return { ...shop, ...changed } as Shop;
}
