import type { HeatAnswer, PourAnswer } from '@kalvet/core';
import { charge } from '@kalvet/core';

export interface PouredTree {
  readonly treeId: string;
  readonly plannedKg: number;
}

/** A heat's trees after one of them, or one that comes to it, was put at a place. */
export function withTreeAt(trees: readonly PouredTree[], tree: PouredTree, place: number): PouredTree[] {
  const rest = trees.filter(({ treeId }) => treeId !== tree.treeId);
  return [...rest.slice(0, place), tree, ...rest.slice(place)];
}

/** Whether the crucible holds a heat with these trees; says how far it is over where it does not. */
export function overCrucible(
  heat: Pick<HeatAnswer, 'holdsKg' | 'usableKg'>,
  trees: readonly PouredTree[],
  settings: { meltLoss: number; pigReserveKg: number },
): string | undefined {
  const found = charge({
    pourWeightsKg: trees.map(({ plannedKg }) => plannedKg),
    meltLoss: settings.meltLoss,
    pigReserveKg: settings.pigReserveKg,
    usableKg: heat.usableKg,
    holdsKg: heat.holdsKg,
  });
  return found.overUsable
    ? `${found.charge.value.toFixed(1)} kg would be above the usable mark of ${heat.usableKg} kg: leave a tree for the next heat`
    : undefined;
}

/** A heat can be arranged anew as long as nothing was poured from it. */
export const mayArrange = (heat: PourAnswer['heats'][number]): boolean =>
  heat.pourings.every(({ outcome }) => outcome === null);
