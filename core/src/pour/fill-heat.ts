import type { Id } from '../records/common.ts';
import type { Day } from '../units/instant.ts';
import { daysBetween } from '../units/instant.ts';

/** A tree that could go into a heat. */
export interface Filler {
  readonly treeId: Id;
  readonly kg: number;
  /** Its thinnest wall, mm; null where nobody knows. */
  readonly wallMm: number | null;
  /** When the first piece on it is due. */
  readonly dueDate: Day | null;
}

/** What is looked for: room in the crucible and in the pit, and what is in the heat already. */
export interface HeatRoom {
  readonly freeKg: number;
  readonly places: number;
  readonly pourDay: Day;
  /** Thinnest walls of the trees that stay. */
  readonly wallsMm: readonly number[];
}

/** Kilograms are weighed out to so many a unit; in a crucible for more than this gives, to fewer. */
const PER_KG = 10;
const MOST_UNITS = 2000;
/** So many trees are looked through at most, those that are worth most a kilogram. */
const MOST_LOOKED_AT = 80;
/** What is due within so many days of the pour counts for more: it takes weeks from there. */
const SOON_DAYS = 42;
const SOON = 0.5;
/** A wall that wants metal so much hotter or cooler than the rest counts for less. */
const ALIKE_MM = 3;
const UNLIKE = 0.8;

/**
 * The trees that fill a heat best: the most metal that finds room, where what is due sooner counts for more and what wants other
 * metal than the rest for less. Exact, to 0.1 kg in crucibles of up to 200 kg (the knapsack by dynamic programming, R. Bellman 1957), with so many trees at
 * most as the pit has places.
 */
export function fillHeat(candidates: readonly Filler[], { freeKg, places, pourDay, wallsMm }: HeatRoom): Filler[] {
  const perKg = Math.min(PER_KG, MOST_UNITS / Math.max(1, freeKg));
  const room = Math.floor(freeKg * perKg + 1e-9);
  const unitsOf = ({ kg }: Filler) => Math.ceil(kg * perKg - 1e-9);
  const worth = new Map(candidates.map((each) => [each, worthOf(each, pourDay, wallsMm)]));
  const fitting = candidates
    .filter((each) => each.kg > 0 && unitsOf(each) <= room)
    .sort((a, b) => worth.get(b)! / b.kg - worth.get(a)! / a.kg)
    .slice(0, MOST_LOOKED_AT);
  if (room <= 0 || places <= 0 || fitting.length === 0) return [];
  const most = Math.min(places, mostThatFit(fitting.map(unitsOf), room));
  // best[trees][units]: the worth of the best set of so many trees at most that weighs so much at most.
  const best = Array.from({ length: most + 1 }, () => new Float64Array(room + 1));
  const taken = fitting.map(() => Array.from({ length: most + 1 }, () => new Uint8Array(room + 1)));
  fitting.forEach((each, i) => {
    const units = unitsOf(each);
    for (let count = most; count >= 1; count--)
      for (let at = room; at >= units; at--) {
        const withIt = best[count - 1]![at - units]! + worth.get(each)!;
        if (withIt <= best[count]![at]! + 1e-9) continue;
        best[count]![at] = withIt;
        taken[i]![count]![at] = 1;
      }
  });
  const found: Filler[] = [];
  for (let i = fitting.length - 1, count = most, at = room; i >= 0; i--) {
    if (count <= 0 || !taken[i]![count]![at]) continue;
    found.push(fitting[i]!);
    at -= unitsOf(fitting[i]!);
    count--;
  }
  return found.reverse();
}

/** How many trees there is room for at all: the lightest. */
function mostThatFit(units: readonly number[], room: number): number {
  let left = room;
  return [...units].sort((a, b) => a - b).filter((each) => (left -= each) >= 0).length;
}

function worthOf({ kg, dueDate, wallMm }: Filler, pourDay: Day, wallsMm: readonly number[]): number {
  const days = dueDate === null ? Infinity : daysBetween(pourDay, dueDate);
  const soon = days >= SOON_DAYS ? 0 : SOON * (1 - Math.max(0, days) / SOON_DAYS);
  const middle = wallsMm.length === 0 ? null : wallsMm.reduce((sum, mm) => sum + mm, 0) / wallsMm.length;
  const isUnlike = middle !== null && wallMm !== null && Math.abs(wallMm - middle) > ALIKE_MM;
  return kg * (1 + soon) * (isUnlike ? UNLIKE : 1);
}
