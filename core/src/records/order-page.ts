import type { Day, Instant } from '../units/instant.ts';
import type { Id, Room } from './common.ts';
import type { Client, Order } from './order.ts';
import type { Likely, PlanStand } from './plan.ts';
import type { PieceState, Series } from './work.ts';

/** A piece that an order can have. */
export interface FreePiece {
  readonly pieceId: Id;
  readonly label: string;
  /** Whose work it is. */
  readonly artist: string;
  /** Where it stands; null where it is not begun. */
  readonly room: Room | null;
  readonly plannedFinish: Instant | null;
}

/** A piece of an order. */
export interface OrderPiece extends FreePiece {
  readonly workId: Id;
  readonly state: PieceState;
  /** Its own due date, or the order's. */
  readonly dueDate: Day | null;
  readonly deliveredAt: Instant | null;
  readonly late: boolean;
  readonly lateDays: number;
  /** What its disc shows. */
  readonly series: Series;
  readonly number: number;
  readonly behind: Room;
  readonly sections: readonly { readonly room: Room; readonly recast: boolean }[];
  readonly version: number;
}

export interface OrderView extends Order {
  readonly client: string;
  /** The soonest out first. */
  readonly pieces: readonly OrderPiece[];
  /** When its last piece is ready; null where one of them has no date. */
  readonly readyAt: Instant | null;
  /** When that is with one chance in two, and with nine in ten; null where no plan says. */
  readonly likely: Likely | null;
  /** By how many days the order is late, by today or by its plan. */
  readonly lateDays: number;
}

export interface OrdersAnswer {
  readonly change: number;
  readonly now: Instant;
  readonly today: Day;
  readonly plan: PlanStand;
  readonly clients: readonly (Client & { readonly orders: number })[];
  readonly orders: readonly OrderView[];
  /** Pieces that stand in no order yet. */
  readonly free: readonly FreePiece[];
}
