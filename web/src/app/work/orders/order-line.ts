import { addDays, dayIn, daysBetween, fromMs } from '@kalvet/core';
import type { Day, OrderPiece, OrderView } from '@kalvet/core';
import { max, scaleUtc, utcMonday } from 'd3';

/** A piece on an order's line: where it stands across, in hundredths, and how many stand there before it. */
export interface Placed {
  readonly piece: OrderPiece;
  readonly at: number;
  readonly lane: number;
}

/** An order drawn on the line of days that all orders share. */
export interface OrderLine {
  readonly order: OrderView;
  readonly placed: readonly Placed[];
  /** Pieces without a date: not planned, cancelled or lost. */
  readonly beside: readonly OrderPiece[];
  readonly lanes: number;
  /** Where its promise and its last piece stand; undefined where there is none. */
  readonly promise: number | undefined;
  readonly ready: number | undefined;
  /** When it is ready with nine chances in ten. */
  readonly ninety: number | undefined;
}

export interface OrderChart {
  readonly weeks: readonly { readonly day: Day; readonly at: number }[];
  readonly today: number;
  readonly lines: readonly OrderLine[];
}

/** Discs nearer than this across would cover each other. */
const DISC_WIDE = 4.6;
/** The line begins a little before today, for what was delivered lately. */
const BEHIND_DAYS = 10;
const AHEAD_DAYS = 21;
const MOST_WEEKS = 9;

/**
 * Lays orders on one line of days: each piece on the day on which it is out, the promise, and the last piece.
 * @param today the shop's day
 * @param zone the shop's time zone
 */
export function orderChart(orders: readonly OrderView[], today: Day, zone: string): OrderChart {
  const outOf = ({ deliveredAt, plannedFinish }: OrderPiece): Day | undefined => {
    const at = deliveredAt ?? plannedFinish;
    return at ? dayIn(at, zone) : undefined;
  };
  const from = addDays(today, -BEHIND_DAYS);
  const days = orders.flatMap(({ dueDate, likely, pieces }) => [
    dueDate ?? today,
    likely ? dayIn(likely.ninetyAt, zone) : today,
    ...pieces.flatMap((each) => outOf(each) ?? []),
  ]);
  const to = max([...days, addDays(today, AHEAD_DAYS)])!;
  const scale = scaleUtc([new Date(from), new Date(addDays(to, 4))], [0, 100]).clamp(true);
  const across = (day: Day) => scale(new Date(day));
  const every = Math.ceil(daysBetween(from, to) / 7 / MOST_WEEKS);
  const weeks = scale.ticks(utcMonday.every(every)!).map((date) => {
    const day = dayIn(fromMs(date.getTime()), 'UTC');
    return { day, at: across(day) };
  });
  const lines = orders.map((order): OrderLine => {
    const placed = inLanes(
      order.pieces.flatMap((piece) => {
        const day = outOf(piece);
        return day === undefined ? [] : [{ piece, at: across(day) }];
      }),
    );
    return {
      order,
      placed,
      beside: order.pieces.filter((piece) => outOf(piece) === undefined),
      lanes: Math.max(1, ...placed.map(({ lane }) => lane + 1)),
      promise: order.dueDate ? across(order.dueDate) : undefined,
      ready: order.readyAt ? across(dayIn(order.readyAt, zone)) : undefined,
      ninety: order.likely ? across(dayIn(order.likely.ninetyAt, zone)) : undefined,
    };
  });
  return { weeks, today: across(today), lines };
}

/** Discs that would cover each other stand one above the other. */
function inLanes(discs: readonly Omit<Placed, 'lane'>[]): Placed[] {
  const placed: Placed[] = [];
  for (const disc of discs) {
    const taken = placed.filter((each) => Math.abs(each.at - disc.at) < DISC_WIDE).map(({ lane }) => lane);
    let lane = 0;
    while (taken.includes(lane)) lane++;
    placed.push({ ...disc, lane });
  }
  return placed;
}
