import type { Text } from '../units/words.ts';
import { celsius, plain } from '../units/quantity.ts';
import { say } from '../units/words.ts';
import type { Refusal } from '../records/refusal.ts';
import { never } from '../records/refusal.ts';

/** A stretch of a firing: to a temperature at a rate, and held there. */
export interface ProfileStretch {
  readonly toC: number;
  /** K an hour; null as fast as the kiln goes. */
  readonly perHourK: number | null;
  readonly holdMinutes: number;
}

/** A firing as ramps and holds, from the kiln's temperature on. */
export interface FiringProfile {
  readonly name: string;
  readonly stretches: readonly ProfileStretch[];
}

/** Where a kiln goes as fast as it can, so many K an hour are reckoned with. */
export const FULL_PER_HOUR_K = 600;
const ROOM_C = 20;

/** What a firing plans for a minute of it, °C; the kiln begins at the room's. */
export function plannedAt({ stretches }: FiringProfile, minute: number, fromC = ROOM_C): number {
  let [at, now] = [0, fromC];
  for (const { toC, perHourK, holdMinutes } of stretches) {
    const ramp = (Math.abs(toC - now) / (perHourK ?? FULL_PER_HOUR_K)) * 60;
    if (minute <= at + ramp) return now + ((toC - now) * (minute - at)) / Math.max(ramp, 1e-9);
    at += ramp + holdMinutes;
    now = toC;
    if (minute <= at) return toC;
  }
  return now;
}

/** How long a firing takes, minutes. */
export function profileMinutes({ stretches }: FiringProfile, fromC = ROOM_C): number {
  let [total, now] = [0, fromC];
  for (const { toC, perHourK, holdMinutes } of stretches) {
    total += (Math.abs(toC - now) / (perHourK ?? FULL_PER_HOUR_K)) * 60 + holdMinutes;
    now = toC;
  }
  return total;
}

/** What plaster investment bears: slow where quartz and cristobalite change their size, and never too hot. Source: handbook 2.5. */
const BLOCK = {
  slowThroughC: [
    [220, 270],
    [558, 588],
  ],
  slowPerHourK: 60,
  mostC: 750,
} as const;

/** What of a firing a block does not bear; none where it does. */
export function judgeBlockProfile({ stretches }: FiringProfile, fromC = ROOM_C): Refusal[] {
  const found: Refusal[] = [];
  let now = fromC;
  for (const { toC, perHourK } of stretches) {
    if (toC > BLOCK.mostC)
      found.push(never('block', say`${celsius(toC)}: plaster breaks down above ${celsius(BLOCK.mostC)}`));
    const rate = perHourK ?? FULL_PER_HOUR_K;
    for (const [low, high] of BLOCK.slowThroughC) {
      const crosses = Math.max(now, toC) > low && Math.min(now, toC) < high;
      if (crosses && rate > BLOCK.slowPerHourK) found.push(never('block', tooFast(rate, low, high)));
    }
    now = toC;
  }
  return found;
}

const tooFast = (rate: number, low: number, high: number): Text =>
  say`${plain(rate, 0)} K an hour through ${celsius(low)} to ${celsius(high)}: the block's sand changes its size there, at most ${plain(BLOCK.slowPerHourK, 0)} K an hour both ways`;
