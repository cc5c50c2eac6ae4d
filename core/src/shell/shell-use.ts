import type { Slurry, Stucco } from '../records/coat-plan.ts';
import type { Instant } from '../units/instant.ts';
import { fromMs, toMs } from '../units/instant.ts';

/** Slurry and stucco that a coat takes up, kg/m², on the middle. Source: handbook 2.4 (0.9 to 1.3, and 1.0 to 1.6). */
export const SLURRY_KG_A_M2 = 1.1;
export const STUCCO_KG_A_M2 = 1.3;
const CM2_A_M2 = 1e4;

/** A coat that was or will be dipped. */
export interface CoatTaken {
  readonly at: Instant;
  readonly areaCm2: number;
  readonly slurry: Slurry;
  readonly stucco: Stucco;
}

export const slurryKg = ({ areaCm2 }: Pick<CoatTaken, 'areaCm2'>): number => (areaCm2 / CM2_A_M2) * SLURRY_KG_A_M2;
export const stuccoKg = ({ areaCm2, stucco }: Pick<CoatTaken, 'areaCm2' | 'stucco'>): number =>
  stucco === 'none' ? 0 : (areaCm2 / CM2_A_M2) * STUCCO_KG_A_M2;

/** A moment at which somebody read how full a tank is, and what went into it then, kg. */
export interface LevelRead {
  readonly at: Instant;
  readonly kg: number;
  readonly addedKg: number;
}

/** What a tank holds now, by its last level and what was dipped since, and how its real use stands to what was worked out. */
export interface TankHolds {
  readonly kg: number;
  /** Real use between two levels ÷ what the coats take by the sum, over all that was read; 1 where too little was. */
  readonly factor: number;
  readonly n: number;
}

/** Less than this between two levels is within what a stick reads, kg. */
const LEAST_USE_KG = 3;

/**
 * What is in a tank: the last level read, less what was dipped since.
 * @param levels in the order of time; a level is read before what is added then
 * @returns undefined where no level was ever read
 */
export function tankHolds(
  levels: readonly LevelRead[],
  coats: readonly CoatTaken[],
  now: Instant,
): TankHolds | undefined {
  const last = levels.at(-1);
  if (!last) return undefined;
  const taken = (from: Instant, to: Instant) =>
    coats.filter(({ at }) => at > from && at <= to).reduce((sum, coat) => sum + slurryKg(coat), 0);
  let [real, computed, n] = [0, 0, 0];
  for (const [i, level] of levels.entries()) {
    const before = levels[i - 1];
    if (!before) continue;
    const sum = taken(before.at, level.at);
    const used = before.kg + before.addedKg - level.kg;
    if (sum < LEAST_USE_KG || used <= 0) continue;
    real += used;
    computed += sum;
    n++;
  }
  const factor = n > 0 ? real / computed : 1;
  return { kg: last.kg + last.addedKg - taken(last.at, now) * factor, factor, n };
}

/** When what is there has gone down to a level, by the coats that are to come; null where it lasts as far as is planned. */
export function lastsUntil(
  kg: number,
  leastKg: number,
  coming: readonly { readonly at: Instant; readonly kg: number }[],
): Instant | null {
  let left = kg;
  if (left <= leastKg) return coming[0]?.at ?? null;
  for (const coat of [...coming].sort((a, b) => toMs(a.at) - toMs(b.at))) {
    left -= coat.kg;
    if (left < leastKg) return fromMs(toMs(coat.at));
  }
  return null;
}
