import type { Step } from '../../records/step.ts';
import { treeFigures } from '../../shop/tree-figures.ts';
import type { LoadNeed, Need, PlanResource } from '../problem.ts';
import type { PlanSnapshot } from './snapshot.ts';

/** The hoists of the shop, all alike; no resource of its list. */
export const HOIST = 'hoist';

export const hoistResources = ({ settings }: PlanSnapshot): PlanResource[] =>
  settings.hoists > 0 ? [{ id: HOIST, capacity: settings.hoists }] : [];

/** A tree that is dipped or knocked out hangs on a hoist where it weighs too much for hands; without a hoist people lift together. */
export function hoistNeed({ index, settings }: PlanSnapshot, step: Step): Need[] {
  const { lifts, through } = index.kind(step);
  // A heat holds it once for all its trees.
  if (settings.hoists === 0 || !lifts || through || step.carrier !== 'tree') return [];
  const weight = treeFigures(index, step.carrierId, settings.liftLimitKg)[lifts]?.weight.value ?? 0;
  return weight >= settings.hoistFromKg ? [{ resource: HOIST }] : [];
}

/** The crucible hangs on it from when its crew is called to the last metal, unless people carry it. */
export const hoistOfHeat = ({ settings }: PlanSnapshot): LoadNeed[] =>
  settings.hoists > 0 && settings.carriers === 0
    ? [{ resource: HOIST, units: 1, before: settings.crewBeforeMinutes }]
    : [];
