import type { CoatPlan, Layer, TreeCoats } from '../records/coat-plan.ts';
import { within } from '../units/figure.ts';

/**
 * How many coats a shell gets by a plan, the seal coat included.
 * @param metalHeightMm height of metal in the shell, mm, or null where nobody knows it yet
 */
export function coatsByPlan(
  { classes, unknown }: Pick<CoatPlan, 'classes' | 'unknown'>,
  metalHeightMm: number | null,
): number {
  if (metalHeightMm === null) return unknown;
  within('metal height', metalHeightMm, 0, 100_000);
  const own = classes.find(({ upToMm }) => upToMm === null || metalHeightMm <= upToMm);
  return own?.coats ?? classes.at(-1)?.coats ?? unknown;
}

/** How one coat is made. */
export type PlannedCoat = Omit<Layer, 'untilCoat'>;

/** How a coat of a tree is made by its plan; the last one seals, and has no stucco. */
export function plannedCoat(
  { layers, seal }: Pick<CoatPlan, 'layers' | 'seal'>,
  sequence: number,
  isSeal: boolean,
): PlannedCoat {
  const own = layers.find(({ untilCoat }) => untilCoat === null || sequence <= untilCoat) ?? layers.at(-1)!;
  const { untilCoat: _, ...layer } = own;
  return isSeal ? { ...layer, ...seal, stucco: 'none', grain: '' } : layer;
}

/** What a tree keeps of the plan that it begins with. */
export const coatsKept = ({ code, number, name, layers, seal }: CoatPlan, coats: number): TreeCoats => ({
  ...{ code, number, name, layers, seal, coats },
  why: null,
});
