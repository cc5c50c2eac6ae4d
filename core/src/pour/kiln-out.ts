import { positive, within } from '../units/figure.ts';

/** Fired shell: kg/m³, J/kgK; what it radiates of a black body, and what air takes beside, W/m²K. */
const DENSITY = 1750;
const HEAT = 1100;
const EMISSIVITY = 0.85;
const AIR_W = 10;
/** Stefan and Boltzmann's constant, W/m²K⁴. */
const SIGMA = 5.670374419e-8;
const KELVIN = 273.15;
const STEP_S = 0.5;
/** Nobody carries a shell for so long. */
const LONGEST_S = 3600;

/** A shell on its way from the kiln to its metal. */
export interface OutOfKiln {
  /** When it leaves, °C. */
  readonly fromC: number;
  readonly wallMm: number;
  readonly airC?: number;
  /** What is left of what it loses bare: 1 bare, less where it is wrapped or bedded in hot sand, the shop's own. */
  readonly share?: number;
}

/** K a second that a shell cools at a temperature: one open side, the wall as one: ρ·c·L·dT/dt = −(ε·σ·(T⁴ − T_a⁴) + h·(T − T_a)). */
const rate = (kelvins: number, air: number, metres: number, share: number): number =>
  (-share * (EMISSIVITY * SIGMA * (kelvins ** 4 - air ** 4) + AIR_W * (kelvins - air))) / (DENSITY * HEAT * metres);

/** A step of so many seconds (Runge and Kutta's, of the fourth order). */
function step(kelvins: number, seconds: number, at: (kelvins: number) => number): number {
  const a = at(kelvins);
  const b = at(kelvins + (seconds / 2) * a);
  const c = at(kelvins + (seconds / 2) * b);
  const d = at(kelvins + seconds * c);
  return kelvins + (seconds / 6) * (a + 2 * b + 2 * c + d);
}

function cooling({ fromC, wallMm, airC = 20, share = 1 }: OutOfKiln): {
  readonly kelvins: number;
  readonly at: (kelvins: number) => number;
} {
  const air = within('air, °C', airC, -40, 60) + KELVIN;
  const metres = positive('wall, mm', wallMm) / 1000;
  const part = within('share of what it loses bare', share, 0, 1);
  return {
    kelvins: within('kiln, °C', fromC, airC, 1400) + KELVIN,
    at: (kelvins) => rate(kelvins, air, metres, part),
  };
}

/** What a shell is so many seconds out of the kiln, °C. @throws RangeError where a figure cannot be */
export function shellAfter(seconds: number, shell: OutOfKiln): number {
  const { kelvins, at } = cooling(shell);
  let now = kelvins;
  let left = within('seconds', seconds, 0, LONGEST_S);
  for (; left > 1e-9; left -= STEP_S) now = step(now, Math.min(STEP_S, left), at);
  return now - KELVIN;
}

/** Seconds until a shell has cooled to a temperature; 0 where it is no hotter, Infinity where it takes longer than an hour. */
export function secondsUntil(downToC: number, shell: OutOfKiln): number {
  const { kelvins, at } = cooling(shell);
  const wanted = downToC + KELVIN;
  let now = kelvins;
  for (let seconds = 0; seconds < LONGEST_S; seconds += STEP_S) {
    if (now <= wanted) return seconds;
    const next = step(now, STEP_S, at);
    if (next <= wanted) return seconds + (STEP_S * (now - wanted)) / (now - next);
    now = next;
  }
  return Infinity;
}
