import type { Instant } from '../units/instant.ts';
import type { Id } from './common.ts';

export type WeightKind = 'scale' | 'displacement' | 'model' | 'size' | 'similar';

export type WeightOf = 'wax' | 'cast' | 'tree' | 'pouring';

/** A reading or outside estimate of a weight. A better one takes over; none is erased. */
export interface Weight {
  readonly id: Id;
  readonly of: WeightOf;
  readonly castId: Id | null;
  readonly treeId: Id | null;
  readonly kind: WeightKind;
  readonly kg: number;
  /** In the same unit, kg. */
  readonly plusMinusKg: number;
  readonly at: Instant;
  readonly voidReason: string | null;
  readonly stepId: Id | null;
  readonly version: number;
}
