import type { BookedHeat } from '../records/fire-records.ts';

/** What heats came to together; shares from 0 to 1, null where nothing was weighed or metered. */
export interface HeatSums {
  readonly heats: number;
  readonly chargeKg: number;
  readonly pouredKg: number;
  /** Burnt, skimmed and spilt ÷ charge, of heats that are over. */
  readonly lossShare: number | null;
  /** Casts ÷ what was poured for them. */
  readonly yieldShare: number | null;
  readonly returnsShare: number | null;
  readonly kwhPerKg: number | null;
  /** Trees that came short, ran out or were not poured ÷ trees. */
  readonly troubledShare: number | null;
}

const ratio = (part: number, whole: number): number | null => (whole > 0 ? part / whole : null);

/** Adds heats up: each share by its kilograms, so that a small heat weighs little. */
export function heatSums(heats: readonly BookedHeat[]): HeatSums {
  const sum = (of: readonly BookedHeat[], value: (heat: BookedHeat) => number) =>
    of.reduce((total, heat) => total + value(heat), 0);
  const over = heats.filter(({ state, pigKg }) => state === 'done' && pigKg !== null);
  const metered = heats.filter(({ energyKwh }) => energyKwh !== null);
  const weighed = heats.filter(({ castsKg }) => castsKg !== null);
  return {
    heats: heats.length,
    chargeKg: sum(heats, ({ chargeKg }) => chargeKg),
    pouredKg: sum(heats, ({ pouredKg }) => pouredKg),
    lossShare: ratio(
      sum(over, ({ chargeKg, pouredKg, pigKg }) => chargeKg - pouredKg - pigKg!),
      sum(over, ({ chargeKg }) => chargeKg),
    ),
    yieldShare: ratio(
      sum(weighed, ({ castsKg }) => castsKg!),
      sum(weighed, ({ castsPouredKg }) => castsPouredKg),
    ),
    returnsShare: ratio(
      sum(heats, ({ returnsKg }) => returnsKg),
      sum(heats, ({ chargeKg }) => chargeKg),
    ),
    kwhPerKg: ratio(
      sum(metered, ({ energyKwh }) => energyKwh!),
      sum(metered, ({ chargeKg }) => chargeKg),
    ),
    troubledShare: ratio(
      sum(heats, ({ troubled }) => troubled),
      sum(heats, ({ trees }) => trees),
    ),
  };
}
