import type { Day } from '../units/instant.ts';
import type { Id } from './common.ts';

/** Whoever orders: a gallery, a town, a person. */
export interface Client {
  readonly id: Id;
  readonly name: string;
  readonly contact: string;
  readonly version: number;
}

/** What a client wants together: pieces of one or several works, a place, a promise, part deliveries or not. */
export interface Order {
  readonly id: Id;
  readonly number: number;
  readonly clientId: Id;
  readonly title: string;
  readonly place: string;
  /** Counts for each of its pieces that has no due date of its own. */
  readonly dueDate: Day | null;
  /** Pieces may leave before the last one is ready. */
  readonly partDelivery: boolean;
  readonly note: string;
  readonly version: number;
}

export interface SaveClient {
  readonly id: Id;
  /** 0 for a new one. */
  readonly version: number;
  readonly name: string;
  readonly contact: string;
}

export interface SaveOrder {
  readonly id: Id;
  /** 0 for a new one. */
  readonly version: number;
  readonly clientId: Id;
  readonly title: string;
  readonly place: string;
  readonly dueDate: Day | null;
  readonly partDelivery: boolean;
  readonly note: string;
  /** All its pieces; one that is left out leaves the order. */
  readonly pieceIds: readonly Id[];
}
