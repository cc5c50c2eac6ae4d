import type { Instant } from '../units/instant.ts';
import type { Text } from '../units/words.ts';
import type { Id } from './common.ts';

/** What a shell room keeps on its shelf. */
export const SUPPLIES = ['binder', 'flour face', 'flour backup', 'fine', 'medium', 'coarse'] as const;
export type SupplyKind = (typeof SUPPLIES)[number];

export const SUPPLY_NAMES: Readonly<Record<SupplyKind, string>> = {
  binder: 'Binder',
  'flour face': 'Flour, face',
  'flour backup': 'Flour, back-up',
  fine: 'Stucco, fine',
  medium: 'Stucco, medium',
  coarse: 'Stucco, coarse',
};

/** A delivery, or what was found when somebody weighed what is there. */
export interface Supply {
  readonly id: Id;
  readonly what: SupplyKind;
  readonly kind: 'delivery' | 'count';
  readonly kg: number;
  readonly lot: string;
  readonly at: Instant;
  readonly note: string;
  readonly byId: Id | null;
  readonly voidReason: string | null;
  readonly version: number;
}

export type SaveSupply = Omit<Supply, 'byId' | 'voidReason' | 'version'>;

/** Something that came or went, kg: in above zero, out below. */
export interface SupplyMovement {
  readonly at: Instant;
  readonly what: SupplyKind;
  readonly kind: 'delivery' | 'count' | 'top-up' | 'dipped';
  readonly kg: number;
  readonly says: Text;
}

/** What there is of it, and how long it lasts by the plan. */
export interface SupplyStock {
  readonly what: SupplyKind;
  readonly kg: number;
  /** Null where it lasts as far as is planned. */
  readonly lastsUntil: Instant | null;
}
