import type { HeatAnswer, HeatTree, Id, PourAnswer, Text } from '@kalvet/core';
import { charge, kg, say } from '@kalvet/core';

/** A tree of a heat as it is arranged: what it takes, and whether somebody typed that. */
export interface PouredTree {
  readonly treeId: Id;
  readonly plannedKg: number;
  readonly typed: boolean;
}

type Pouring = Pick<HeatAnswer['pourings'][number], 'treeId' | 'plannedKg' | 'plannedSource'>;

export const treeOf = ({ treeId, plannedKg, plannedSource }: Pouring): PouredTree => ({
  treeId,
  plannedKg,
  typed: plannedSource === 'typed',
});

/** As it goes to the server: what was worked out is worked out there again, only what was typed stands. */
export const asGiven = ({ treeId, plannedKg, typed }: PouredTree): HeatTree =>
  typed ? { treeId, plannedKg } : { treeId };

/** A heat's trees after one of them, or one that comes to it, was put at a place. */
export function withTreeAt(trees: readonly PouredTree[], tree: PouredTree, place: number): PouredTree[] {
  const rest = trees.filter(({ treeId }) => treeId !== tree.treeId);
  return [...rest.slice(0, place), tree, ...rest.slice(place)];
}

/** Whether the crucible holds a heat with these trees, by the heat's own melt loss and pig; says how far it is over. */
export function overCrucible(
  heat: Pick<HeatAnswer, 'holdsKg' | 'usableKg' | 'meltLoss' | 'pigReserveKg'>,
  trees: readonly Pick<PouredTree, 'plannedKg'>[],
): Text | undefined {
  const found = charge({ pourWeightsKg: trees.map(({ plannedKg }) => plannedKg), ...heat });
  return found.overUsable
    ? say`${kg(found.charge.value)} would be above the usable mark of ${kg(heat.usableKg, 0)}: leave a tree for the next heat`
    : undefined;
}

/** A heat can be arranged anew as long as nothing was poured from it. */
export const mayArrange = (heat: PourAnswer['heats'][number]): boolean =>
  heat.pourings.every(({ outcome }) => outcome === null);
