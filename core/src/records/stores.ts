import type { Day, Instant } from '../units/instant.ts';
import type { Text } from '../units/words.ts';
import type { Id } from './common.ts';

export const LOT_STATES = ['good', 'quarantine', 'sent back'] as const;
/** Metal whose alloy nobody is sure of stays in quarantine: it is never charged. */
export type LotState = (typeof LOT_STATES)[number];

/** A delivery of metal: ingot of an alloy, or an addition. */
export interface Lot {
  readonly id: Id;
  readonly number: number;
  readonly what: 'ingot' | 'addition';
  /** Null where nobody knows; of an addition the alloys it is for are many. */
  readonly alloyId: string | null;
  /** The supplier's mark, as it stands on the ingots. */
  readonly mark: string;
  readonly supplier: string;
  readonly kg: number;
  readonly receivedOn: Day;
  /** Per cent by element, from the supplier's sheet. */
  readonly analysis: Readonly<Record<string, number>>;
  readonly state: LotState;
  readonly note: string;
  readonly version: number;
}

/** What was found when somebody weighed what is there: from then on it counts. */
export interface StockCount {
  readonly id: Id;
  readonly alloyId: string;
  readonly what: 'ingot' | 'returns';
  readonly kg: number;
  readonly at: Instant;
  readonly why: string;
  readonly version: number;
}

export const CRUCIBLE_STATES = ['in use', 'resting', 'retired'] as const;
export type CrucibleState = (typeof CRUCIBLE_STATES)[number];

/** A pot. Alloys of one family share it; what leaves dirt in it never goes before cleaner metal. */
export interface Crucible {
  readonly id: Id;
  readonly number: number;
  readonly name: string;
  readonly family: string;
  readonly holdsKg: number;
  readonly usableKg: number;
  readonly emptyKg: number;
  /** Heats that its maker or the shop gives it, and those before Kalvet. */
  readonly lifeHeats: number;
  readonly heatsBefore: number;
  readonly state: CrucibleState;
  readonly since: Day;
  readonly version: number;
}

/** What somebody saw when they looked a pot over. */
export interface CrucibleLook {
  readonly id: Id;
  readonly crucibleId: Id;
  readonly at: Instant;
  readonly verdict: 'good' | 'watch' | 'retire';
  readonly note: string;
  readonly byId: Id | null;
  readonly version: number;
}

/** Metal that came or went, kg: in above zero, out below. */
export interface Movement {
  readonly at: Instant;
  readonly alloyId: string;
  readonly what: 'ingot' | 'returns' | 'addition';
  readonly kind: 'receipt' | 'charge' | 'pig' | 'cut off' | 'count' | 'sent back';
  readonly kg: number;
  readonly says: Text;
  readonly heatId: Id | null;
  readonly lot: string;
}

/** What there is of an alloy, kg. */
export interface MetalStock {
  readonly alloyId: string;
  readonly ingotKg: number;
  readonly returnsKg: number;
}

/** A heat that takes metal, ahead of now. */
export interface MetalNeed {
  readonly at: Instant;
  readonly alloyId: string;
  readonly heatId: Id | null;
  readonly label: string;
  /** What goes into the crucible, kg, and how much of it is returns and ingot. */
  readonly chargeKg: number;
  readonly returnsKg: number;
  readonly ingotKg: number;
  /** What is left of the ingot after it, below zero what is missing. */
  readonly ingotLeftKg: number;
}

/** An entered or changed lot. */
export type SaveLot = Omit<Lot, 'number'>;
export type SaveCount = Omit<StockCount, 'version' | 'at'>;
export type SaveCrucible = Omit<Crucible, 'number'>;
export type SaveLook = Omit<CrucibleLook, 'version' | 'at' | 'byId'>;

/** An alloy's whole history in kilograms: what came in is what went out, is lost, hangs in shells or lies there. */
export interface AlloyBalance {
  readonly alloyId: string;
  /** Deliveries, additions, and what counts found beside the books. */
  readonly inKg: number;
  readonly castsKg: number;
  /** Burnt, skimmed and spilt. */
  readonly lostKg: number;
  /** Poured and not knocked out yet, and what is in a crucible. */
  readonly inWorkKg: number;
  readonly stockKg: number;
  /** What the two sides differ by; 0 where the books are right. */
  readonly openKg: number;
}

export interface MetalAnswer {
  readonly change: number;
  readonly stock: readonly MetalStock[];
  readonly needs: readonly MetalNeed[];
  readonly balance: readonly AlloyBalance[];
  readonly lots: readonly (Lot & { readonly leftKg: number })[];
  readonly crucibles: readonly (Crucible & {
    readonly heats: number;
    readonly looks: readonly CrucibleLook[];
    /** What was melted in it last. */
    readonly lastAlloyId: string | null;
  })[];
  /** The newest first. */
  readonly movements: readonly Movement[];
  readonly shorts: readonly MetalNeed[];
}
