import type {
  Cast,
  ChargeLine,
  Crucible,
  Heat,
  HeatReading,
  HeatRecord,
  Id,
  PastHeat,
  Pouring,
  Step,
  TreeCast,
  TreeName,
} from '@kalvet/core';
import { CREW_ROLE_NAMES, alloyOf, castLabel, cupTarget, piecesOfStep, treeLabel, worksOfStep } from '@kalvet/core';
import { Op } from 'sequelize';
import { rowsOf } from '../db/rows.ts';
import type { Server } from '../http/request.ts';
import { changeNumber } from '../live/changes.ts';
import { people } from '../people/person-of.ts';
import { labelled } from '../shop/labelled.ts';
import { history } from '../work/history.service.ts';
import { notFound } from '../write/problem.ts';
import type { Store } from '../write/store.ts';
import { thinnestWalls } from './thinnest-walls.ts';
import { treesCame } from './trees-came-read.service.ts';

/** Trees by their names, with the pieces and works on them; what is knocked out is still called so. */
export async function treeNames(store: Store, treeIds: readonly Id[]): Promise<Map<Id, TreeName>> {
  const index = await labelled(store, { trees: treeIds });
  return new Map(
    treeIds.map((treeId) => {
      const on = { carrier: 'tree', carrierId: treeId } as const;
      const names = {
        label: treeLabel(index, treeId),
        title: worksOfStep(index, on),
        pieceIds: piecesOfStep(index, on),
      };
      return [treeId, { treeId, ...names }];
    }),
  );
}

/** A heat with everything that is on record of it, also when it is over. */
export async function heatRecord({ store }: Server, id: Id): Promise<HeatRecord> {
  const [heat] = await rowsOf<Heat>(store, 'heats', { id });
  if (!heat) throw notFound('heat');
  const [change, pourings, lines, everybody, told, readings, [pot]] = await Promise.all([
    changeNumber(store),
    rowsOf<Pouring>(store, 'pourings', { heatId: id }),
    rowsOf<ChargeLine>(store, 'chargeLines', { heatId: id }),
    people(store),
    history(store, id),
    rowsOf<HeatReading>(store, 'heatReadings', { heatId: id, voidReason: null }),
    rowsOf<Crucible>(store, 'crucibles', { id: heat.crucibleId ?? '' }),
  ]);
  const treeIds = pourings.map(({ treeId }) => treeId);
  const [came, walls, steps, lost] = await Promise.all([
    treesCame(store, treeIds),
    thinnestWalls(store, treeIds),
    rowsOf<Step>(store, 'steps', { id: pourings.flatMap(({ stepId }) => stepId ?? []) }),
    lostOf(store, treeIds),
  ]);
  const noteOf = new Map(steps.map(({ id: stepId, note }) => [stepId, note]));
  const known = new Map(everybody.map((person) => [person.id, person.name]));
  const name = (personId: Id | null) => (personId === null ? null : (known.get(personId) ?? 'somebody'));
  const trees = await treeNames(store, treeIds);
  const { leadId: _, coverConfirmedById, version: __, ...rest } = heat;
  return {
    ...rest,
    change,
    crewNames: (heat.crew ?? []).map(({ role, personId, deputyId }) => ({
      what: CREW_ROLE_NAMES[role],
      name: name(personId)!,
      deputy: name(deputyId),
    })),
    coverConfirmedBy: name(coverConfirmedById),
    pourings: pourings
      .sort((a, b) => a.order - b.order)
      .map(({ heatId: ___, version: ____, ...pouring }) => {
        const { treeId, stepId } = pouring;
        const wallMm = walls.get(treeId)?.wallMm;
        return {
          ...trees.get(treeId)!,
          ...pouring,
          cup: cupTarget(
            alloyOf(heat.alloyId),
            wallMm !== undefined && Number.isFinite(wallMm) ? wallMm : USUAL_WALL_MM,
          ),
          castsKg: came.get(treeId)?.castsKg ?? null,
          returnsKg: came.get(treeId)?.returnsKg ?? null,
          note: (stepId && noteOf.get(stepId)) || '',
          losses: lost.get(treeId) ?? [],
        };
      }),
    crucible: pot?.name ?? null,
    readings: readings.sort((a, b) => a.at.localeCompare(b.at)),
    chargeLines: lines.map(({ what, alloyId, kg, lot, dry }) => ({ what, alloyId, kg, lot, dry })),
    history: told,
  };
}

/** Casts that were lost, by the tree they hung on last, with why. */
async function lostOf(store: Store, treeIds: readonly Id[]): Promise<Map<Id, { label: string; why: string }[]>> {
  const members = await rowsOf<TreeCast>(store, 'treeCasts', { treeId: treeIds });
  const casts = await rowsOf<Cast>(store, 'casts', { id: members.map(({ castId }) => castId), state: 'lost' });
  if (casts.length === 0) return new Map();
  const index = await labelled(store, { casts: casts.map(({ id }) => id) });
  const found = new Map<Id, { label: string; why: string }[]>();
  for (const { treeId, castId } of members) {
    const cast = casts.find(({ id }) => id === castId);
    if (!cast) continue;
    const known = index.cast.get(castId);
    found.set(treeId, [
      ...(found.get(treeId) ?? []),
      { label: known ? castLabel(index, known) : 'a cast', why: cast.lostWhy ?? '' },
    ]);
  }
  return found;
}

/** Where a wall is not known. */
const USUAL_WALL_MM = 5;

const PAST = 20;

/** The heats that are over, the newest first. */
export async function pastHeats(store: Store): Promise<PastHeat[]> {
  const found = await store.models.heats.findAll({
    where: { state: { [Op.in]: ['done', 'abandoned'] } },
    attributes: ['id'],
    order: [['number', 'DESC']],
    limit: PAST,
    raw: true,
  });
  const ids = (found as unknown as { id: Id }[]).map(({ id }) => id);
  const [heats, pourings] = await Promise.all([
    rowsOf<Heat>(store, 'heats', { id: ids }),
    rowsOf<Pouring>(store, 'pourings', { heatId: ids }),
  ]);
  return heats
    .map(({ id, number, alloyId, state, startedAt, endedAt }): PastHeat => {
      const own = pourings.filter(({ heatId }) => heatId === id);
      const pouredKg = own.reduce((sum, each) => sum + (each.pouredKg ?? 0), 0);
      return { id, number, alloyId, state, at: startedAt ?? endedAt, trees: own.length, pouredKg };
    })
    .sort((a, b) => b.number - a.number);
}
