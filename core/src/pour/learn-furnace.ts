import type { Alloy } from '../materials/alloys.ts';
import type { TemperaturePlace } from '../records/pour.ts';
import type { Instant } from '../units/instant.ts';
import { minutesBetween } from '../units/instant.ts';
import type { LearnedFigure } from '../units/learned.ts';
import { learned } from '../units/learned.ts';
import { meltEnergyKJPerKg } from './melt-minutes.ts';
import { coolingOf } from './targets.ts';

/** A temperature of the metal, as it was read. */
export interface MetalReading {
  readonly at: Instant;
  readonly celsius: number;
  readonly where: TemperaturePlace;
  /** What somebody estimated by its colour teaches nothing. */
  readonly byEye: boolean;
}

/** A heat that is over, as far as a furnace is learned from it. */
export interface ClosedHeat {
  readonly alloy: Alloy;
  readonly chargeKg: number;
  /** What the meter counted; null where nobody read it. */
  readonly energyKwh: number | null;
  /** It was lit cold: its lining was warmed too. */
  readonly cold: boolean;
  readonly readings: readonly MetalReading[];
}

/** What the furnace's settings would be by what was read; undefined where nothing tells. */
export interface LearnedFurnace {
  /** dT/dt = −k·(T − T_a), a minute. */
  readonly coolingPerMin?: LearnedFigure;
  readonly transferK?: LearnedFigure;
  readonly efficiency?: LearnedFigure;
  readonly liningKwh?: LearnedFigure;
}

/** Two readings tell how a crucible cools where they lie so far apart: closer, the instrument's own error is larger. */
const LEAST_MIN = 1.5;
/** Later it stands over a burner again, or is another metal. */
const MOST_MIN = 45;
const LEAST_DROP_K = 3;
/** A reading at the cup belongs to one in the furnace of so many minutes before. */
const PAIR_MIN = 15;
const AIR_C = 20;

const byTime = (readings: readonly MetalReading[]) =>
  readings.filter(({ byEye }) => !byEye).sort((a, b) => a.at.localeCompare(b.at));

/** k of each pair of readings of the crucible that follow one another. */
function coolings(readings: readonly MetalReading[], place: TemperaturePlace): number[] {
  const own = byTime(readings).filter(({ where }) => where === place);
  return own.slice(1).flatMap((later, i) => {
    const before = own[i]!;
    const minutes = minutesBetween(before.at, later.at);
    const isPair = minutes >= LEAST_MIN && minutes <= MOST_MIN && before.celsius - later.celsius >= LEAST_DROP_K;
    return isPair ? [coolingOf(before.celsius, later.celsius, minutes, AIR_C)] : [];
  });
}

/** What is lost from crucible to cup, the crucible's own cooling between the two readings taken off. */
function transfers(readings: readonly MetalReading[], coolingPerMin: number): number[] {
  const own = byTime(readings);
  return own.flatMap(({ where, at, celsius }) => {
    if (where !== 'cup') return [];
    const before = own.filter((other) => other.where !== 'cup' && other.at <= at).at(-1);
    const minutes = before ? minutesBetween(before.at, at) : Infinity;
    if (!before || minutes > PAIR_MIN) return [];
    const leaves = AIR_C + (before.celsius - AIR_C) * Math.exp(-coolingPerMin * minutes);
    return leaves > celsius ? [leaves - celsius] : [];
  });
}

/** What the metal of a heat holds when it is hottest, kWh. */
function heldKwh({ alloy, chargeKg, readings }: ClosedHeat): number | undefined {
  const top = Math.max(...byTime(readings).map(({ celsius }) => celsius));
  const middle = (alloy.solidusC + alloy.liquidusC) / 2;
  return Number.isFinite(top) && top > middle ? (meltEnergyKJPerKg(alloy, top) * chargeKg) / 3600 : undefined;
}

/**
 * What the shop's own heats say of its furnace: how fast the crucible cools, what pouring over costs, how much of the energy
 * reaches the metal (heats in a warm furnace), and what a cold lining takes beside (the others, at that efficiency).
 * @param usual what is counted with where the heats tell nothing of it
 */
export function learnFurnace(
  heats: readonly ClosedHeat[],
  usual: { readonly coolingPerMin: number; readonly efficiency: number },
): LearnedFurnace {
  const cooling = learned(
    heats.flatMap(({ readings }) => [...coolings(readings, 'furnace'), ...coolings(readings, 'ladle')]),
  );
  const transfer = learned(heats.flatMap(({ readings }) => transfers(readings, cooling?.value ?? usual.coolingPerMin)));
  const metered = heats.flatMap((heat) => {
    const held = heldKwh(heat);
    return heat.energyKwh !== null && heat.energyKwh > 0 && held !== undefined
      ? [{ cold: heat.cold, held, used: heat.energyKwh }]
      : [];
  });
  const efficiency = learned(metered.filter(({ cold }) => !cold).map(({ held, used }) => held / used));
  const share = efficiency?.value ?? usual.efficiency;
  const lining = learned(
    metered.filter(({ cold }) => cold).flatMap(({ held, used }) => (used > held / share ? [used - held / share] : [])),
  );
  return {
    ...(cooling ? { coolingPerMin: cooling } : {}),
    ...(transfer ? { transferK: transfer } : {}),
    ...(efficiency ? { efficiency } : {}),
    ...(lining ? { liningKwh: lining } : {}),
  };
}
