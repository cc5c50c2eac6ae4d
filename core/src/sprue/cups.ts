import type { Cup, NamedCup } from '../records/tree-stock.ts';
import { DEFAULT_CUP, DEFAULT_CUP_FILL, cupVolumeCm3 } from './tree-metal.ts';

/** A cup keeps the casts fed while they set: at least a tenth of what they take stands in it. */
const FEEDS_SHARE = 0.1;

/**
 * The cup that is usual for a tree: the smallest of the shop's that, poured as full as usual, holds a tenth of what its casts
 * take; else the largest. A cup for ten kilograms of bronze on a cast of three wastes half the pour.
 * @param castsKg what the casts take, kg; @param densityGPerCm3 of the metal
 */
export function usualCup(cups: readonly NamedCup[], castsKg: number, densityGPerCm3: number): NamedCup | null {
  const bySize = [...cups].sort((a, b) => cupVolumeCm3(a) - cupVolumeCm3(b));
  const holdsKg = (cup: Cup) => (cupVolumeCm3(cup) * densityGPerCm3 * DEFAULT_CUP_FILL) / 1000;
  return bySize.find((cup) => holdsKg(cup) >= castsKg * FEEDS_SHARE) ?? bySize.at(-1) ?? null;
}

/**
 * The cup that was said at the joining: `false` is none; older records say `true` of the one cup there was.
 * @param usual what counts where nobody has said
 */
export function cupSaid(reading: unknown, usual: Cup | null): Cup | null {
  if (reading === false) return null;
  if (reading === true) return DEFAULT_CUP;
  return typeof reading === 'object' && reading !== null ? (reading as NamedCup) : usual;
}
