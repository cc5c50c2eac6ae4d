import type { DryingAir } from '../records/climate.ts';
import { positive } from '../units/figure.ts';
import { reachesBack, thirstAt, thirstReached } from './drying-air.ts';

/** A time in which a coat hangs in one place. */
export interface Stay {
  readonly sinceMs: number;
  readonly air: DryingAir;
  readonly airflow: number;
}

/** What somebody found when they looked whether it is dry. */
export interface DrynessSaid {
  readonly ms: number;
  readonly dry: boolean;
  /** How much it had dried, where that was told. */
  readonly share: number | null;
}

/** How a coat dries: its share at any moment, and when it is dry. */
export interface DryingCourse {
  readonly dryMs: number | null;
  /** The share that has dried at a moment, 0 at the dip, 1 dry. */
  readonly shareAt: (ms: number) => number;
}

/** What was found wet is at most so far. */
export const WET_AT_MOST = 0.9;

interface Knot {
  readonly ms: number;
  readonly share: number;
  readonly stay: Stay;
  /** Thirst that the whole coat takes here, K·h. */
  readonly needs: number;
}

/**
 * How a coat dries that hangs in one place after another, with what was found when somebody looked. What was found beats the
 * sum: "dry" ends it; "still wet" sets it back to what it can be at most, and it goes on as much slower as it has gone so far.
 * @param thirst that the coat takes in the reference's draught, K·h
 * @param sinceMs the dip; @param stays the first at or before it
 * @returns null where the climate does not reach back to the dip
 */
export function dryingCourse(
  thirst: number,
  sinceMs: number,
  stays: readonly Stay[],
  said: readonly DrynessSaid[] = [],
): DryingCourse | null {
  positive('thirst', thirst);
  const first = stays.findLastIndex((stay) => stay.sinceMs <= sinceMs);
  const own = stays.slice(Math.max(0, first));
  if (own.length === 0 || !own.every((stay, i) => reachesBack(stay.air, i === 0 ? sinceMs : stay.sinceMs))) return null;
  const looks = [...said].filter(({ ms }) => ms >= sinceMs).sort((a, b) => a.ms - b.ms);
  let slow = 1;
  const needs = (stay: Stay) => thirst * stay.airflow * slow;
  const knots: Knot[] = [{ ms: sinceMs, share: 0, stay: own[0]!, needs: needs(own[0]!) }];
  const moments = [
    ...own.slice(1).map((stay) => ({ ms: stay.sinceMs, stay })),
    ...looks.map((look) => ({ ms: look.ms, look })),
  ].sort((a, b) => a.ms - b.ms);
  const found: { ms: number }[] = [];
  let from = 0;
  for (const moment of moments) {
    const last = knots.at(-1)!;
    const share = shareOn(last, moment.ms);
    if ('stay' in moment) knots.push({ ms: moment.ms, share, stay: moment.stay, needs: needs(moment.stay) });
    else if (moment.look.dry) {
      found.push({ ms: moment.ms });
      break;
    } else {
      const left = Math.min(moment.look.share ?? WET_AT_MOST, share, WET_AT_MOST);
      // It has dried more slowly than was thought, and goes on so.
      if (left > 0 && share > left) slow *= share / left;
      knots.push({ ms: moment.ms, share: left, stay: last.stay, needs: needs(last.stay) });
      from = knots.length - 1;
    }
  }
  const bySum = crossing(knots.slice(from));
  const byLook = found[0]?.ms ?? null;
  const dryMs = bySum === null ? byLook : byLook === null ? bySum : Math.min(bySum, byLook);
  return {
    dryMs: dryMs === null ? null : Math.round(dryMs / 1000) * 1000,
    shareAt: (ms) => {
      if (byLook !== null && ms >= byLook) return Math.max(1, shareOn(knotAt(knots, ms), ms));
      return shareOn(knotAt(knots, ms), ms);
    },
  };
}

const shareOn = ({ ms, share, stay, needs }: Knot, at: number): number =>
  share + Math.max(0, thirstAt(stay.air, Math.max(at, ms)) - thirstAt(stay.air, ms)) / needs;

const knotAt = (knots: readonly Knot[], ms: number): Knot => knots.findLast((knot) => knot.ms <= ms) ?? knots[0]!;

/** The first moment at which it is dry by the sum. */
function crossing(knots: readonly Knot[]): number | null {
  for (const [i, knot] of knots.entries()) {
    const reached = thirstReached(knot.stay.air, knot.ms, Math.max(0, 1 - knot.share) * knot.needs);
    const until = knots[i + 1]?.ms ?? Infinity;
    if (reached !== null && reached <= until) return reached;
  }
  return null;
}
