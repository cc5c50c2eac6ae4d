import type { Cast, CoatTaken, Id, Instant, Section, Step, Tree, TreeCast } from '@kalvet/core';
import { isInDoubt, plannedCoat } from '@kalvet/core';
import { Op } from 'sequelize';
import { rowsOf } from '../db/rows.ts';
import { settingsOf } from '../people/settings.ts';
import type { Store } from '../write/store.ts';
import { COATS } from './coats-dipped.ts';

/** A coat with the surface that it is on. */
export interface CoatOn extends CoatTaken {
  readonly treeId: Id;
  readonly inDoubt: boolean;
}

/** Surfaces of trees, cm²: what is on them, of sections whose surface is known. */
async function areasOf(store: Store, treeIds: readonly Id[]): Promise<Map<Id, number>> {
  const members = await rowsOf<TreeCast>(store, 'treeCasts', { treeId: treeIds });
  const casts = await rowsOf<Cast>(store, 'casts', { id: [...new Set(members.map(({ castId }) => castId))] });
  const sections = await rowsOf<Section>(store, 'sections', {
    id: [...new Set(casts.map(({ sectionId }) => sectionId))],
  });
  const areaOf = new Map(sections.map(({ id, areaCm2 }) => [id, areaCm2 ?? 0]));
  const sectionOf = new Map(casts.map(({ id, sectionId }) => [id, sectionId]));
  const areas = new Map<Id, number>();
  for (const { treeId, castId } of members)
    areas.set(treeId, (areas.get(treeId) ?? 0) + (areaOf.get(sectionOf.get(castId) ?? '') ?? 0));
  return areas;
}

/** Coats that were dipped since a moment. */
export async function coatsSince(store: Store, from: Instant): Promise<CoatOn[]> {
  const steps = await rowsOf<Step>(store, 'steps', { kind: COATS, endedAt: { [Op.gt]: new Date(from) } });
  const areas = await areasOf(store, [...new Set(steps.map(({ carrierId }) => carrierId))]);
  return steps.flatMap(({ carrierId, endedAt, readings, flags, state }) =>
    state === 'skipped' || endedAt === null
      ? []
      : [
          {
            at: endedAt,
            treeId: carrierId,
            areaCm2: areas.get(carrierId) ?? 0,
            slurry: readings['slurry'] as CoatTaken['slurry'],
            stucco: (readings['stucco'] ?? 'none') as CoatTaken['stucco'],
            inDoubt: flags.some(isInDoubt),
          },
        ],
  );
}

/** Coats that are to come, by the plan in use. */
export async function coatsComing(store: Store, planId: Id | null): Promise<CoatTaken[]> {
  if (planId === null) return [];
  const steps = await rowsOf<Step>(store, 'steps', { kind: COATS, state: 'planned' });
  const planned = await rowsOf<{ stepId: Id; startsAt: Instant }>(store, 'plannedSteps', {
    planId,
    stepId: steps.map(({ id }) => id),
  });
  const startOf = new Map(planned.map(({ stepId, startsAt }) => [stepId, startsAt]));
  const treeIds = [...new Set(steps.map(({ carrierId }) => carrierId))];
  const [areas, trees, { coatPlans }] = await Promise.all([
    areasOf(store, treeIds),
    rowsOf<Tree>(store, 'trees', { id: treeIds }),
    settingsOf(store),
  ]);
  const treeOf = new Map(trees.map((tree) => [tree.id, tree]));
  const highest = new Map<Id, number>();
  for (const { carrierId, sequence } of steps) highest.set(carrierId, Math.max(highest.get(carrierId) ?? 0, sequence));
  return steps.flatMap(({ id, carrierId, sequence }) => {
    const at = startOf.get(id);
    if (!at) return [];
    const plan = treeOf.get(carrierId)?.coatPlan ?? coatPlans[0]!;
    const { slurry, stucco } = plannedCoat(plan, sequence, sequence === highest.get(carrierId));
    return [{ at, areaCm2: areas.get(carrierId) ?? 0, slurry, stucco }];
  });
}
