import type { ChartedCheck, Tank, TankCheck, TankDecision, TankStand } from '../records/tanks.ts';
import type { ChartLimits } from '../units/chart.ts';
import type { Instant } from '../units/instant.ts';
import { addMinutes } from '../units/instant.ts';
import { plain, quantity } from '../units/quantity.ts';
import type { Text } from '../units/words.ts';
import { inWords, joined, say } from '../units/words.ts';
import { LEAST_VALUES, chartLimits, chartSigns } from './control-chart.ts';

const s = (value: number) => quantity(value, 's', 1);

/** The checks of a tank that count, in the order of time. */
const counting = (tank: Tank, checks: readonly TankCheck[]): TankCheck[] =>
  checks
    .filter(({ tankId, voidReason }) => tankId === tank.id && voidReason === null)
    .sort((a, b) => (a.at < b.at ? -1 : 1));

/** The limits of a tank's viscosity, from its base period; null where none is chosen, or too little was read in it. */
export function tankLimits(tank: Tank, checks: readonly TankCheck[]): ChartLimits | null {
  const { base } = tank;
  if (!base) return null;
  const values = counting(tank, checks).flatMap(({ at, viscosityS }) =>
    viscosityS !== null && at >= base.from && at <= base.to ? [viscosityS] : [],
  );
  return values.length < LEAST_VALUES ? null : chartLimits(values);
}

/** Each check with the signs that its viscosity gives, and what is wrong with it: such a tank is not dipped in. */
export function chartedChecks(tank: Tank, checks: readonly TankCheck[]): ChartedCheck[] {
  const limits = tankLimits(tank, checks);
  const own = counting(tank, checks);
  const read = own.filter(({ viscosityS }) => viscosityS !== null);
  const signs = limits
    ? chartSigns(
        read.map(({ viscosityS }) => viscosityS!),
        limits,
      )
    : [];
  const signsOf = new Map(read.map((check, i) => [check.id, signs[i] ?? []]));
  return own.map((check) => ({
    check,
    signs: signsOf.get(check.id) ?? [],
    faults: faultsOf(tank, check, limits),
  }));
}

function faultsOf(tank: Tank, { mixer, viscosityS, ph }: TankCheck, limits: ChartLimits | null): Text[] {
  const low = Math.max(tank.lowS ?? 0, limits?.low ?? 0);
  const high = Math.min(tank.highS ?? Infinity, limits?.high ?? Infinity);
  return [
    ...(mixer === 'stopped' ? ['the mixer stood still'] : []),
    ...(viscosityS !== null && viscosityS < low ? [say`${s(viscosityS)}, below ${s(low)}: thin`] : []),
    ...(viscosityS !== null && viscosityS > high ? [say`${s(viscosityS)}, above ${s(high)}: thick`] : []),
    ...(ph !== null && tank.leastPh !== null && ph < tank.leastPh
      ? [say`pH ${plain(ph, 1)}, below ${plain(tank.leastPh, 1)}: it gels`]
      : []),
  ];
}

/**
 * How a tank stands: once a check finds it out of its limits, or its mixer still, nothing is dipped in it until somebody
 * decides; what was dipped since it was last found good is in doubt.
 */
export function tankStand(tank: Tank, checks: readonly TankCheck[], decisions: readonly TankDecision[]): TankStand {
  const charted = chartedChecks(tank, checks);
  const decided = decisions
    .filter(({ tankId, voidReason }) => tankId === tank.id && voidReason === null)
    .reduce<Instant>((last, { at }) => (at > last ? at : last), '');
  const bad = charted.find(({ check, faults }) => faults.length > 0 && check.at > decided);
  const before = bad && charted.findLast(({ check, faults }) => faults.length === 0 && check.at < bad.check.at);
  const last = charted.at(-1)?.check;
  const isBlocked = tank.state === 'in use' && bad !== undefined;
  return {
    tankId: tank.id,
    name: tank.name,
    slurry: tank.slurry,
    blockedSince: isBlocked ? bad.check.at : null,
    doubtFrom: isBlocked ? latest(before?.check.at, decided) : null,
    why: isBlocked ? joined(bad.faults, ', ') : null,
    nextCheckAt: last ? addMinutes(last.at, tank.checkEveryHours * 60) : null,
  };
}

const latest = (a: Instant | undefined, b: Instant): Instant | null => {
  const found = a !== undefined && a > b ? a : b;
  return found === '' ? null : found;
};

/** What is written beside a coat that was dipped in a tank before it was found out of order. */
const DOUBT = 'in doubt: ';
export const inDoubt = ({ name, why }: Pick<TankStand, 'name' | 'why'>): string =>
  `${DOUBT}${name}, ${inWords(why ?? '')}`;
export const isInDoubt = (flag: string): boolean => flag.startsWith(DOUBT);
/** What stands there once somebody decided that such coats stand. */
export const doubtSettled = (flag: string, who: string): string =>
  isInDoubt(flag) ? `was ${flag}; stands, ${who}` : flag;
