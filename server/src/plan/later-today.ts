import type { Cast, DayLine, Id, Instant, Mould, NextStep, Piece, Section, ShopIndex, Step, Tree } from '@kalvet/core';
import type { TreeCast, Weight, Work } from '@kalvet/core';
import {
  EMPTY_SHOP,
  carrierLabel,
  indexShop,
  kindOf,
  piecesOfStep,
  roomOfStep,
  stepName,
  stepNumbers,
  worksOfStep,
} from '@kalvet/core';
import { Op } from 'sequelize';
import { rowsOf } from '../db/rows.ts';
import type { Store } from '../write/store.ts';
import { dayLine } from './day-line.ts';

/** What the plan has until the end of a day, by step. */
export type PlannedUntil = ReadonlyMap<Id, PlannedRow>;

interface PlannedRow {
  readonly stepId: Id;
  readonly startsAt: Instant;
  readonly endsAt: Instant;
  readonly load_: string | null;
}

export async function plannedUntil(store: Store, planId: Id | null, dayEnd: Instant): Promise<PlannedUntil> {
  if (planId === null) return new Map();
  const rows = await rowsOf<PlannedRow>(store, 'plannedSteps', { planId, startsAt: { [Op.lt]: dayEnd } });
  return new Map(rows.map((row) => [row.stepId, row]));
}

/**
 * Every step that is planned for the day behind those that are next: the third dip of a tree whose second is not done yet,
 * the joining of a wax that is chased this morning.
 */
export async function laterToday(
  store: Store,
  today: PlannedUntil,
  lines: readonly DayLine[],
  late: ReadonlySet<Id>,
  liftLimitKg: number,
): Promise<DayLine[]> {
  const known = new Set(lines.map(({ stepId }) => stepId));
  const ids = [...today.keys()].filter((id) => !known.has(id));
  const wanted = (await rowsOf<Step>(store, 'steps', { id: ids, state: 'planned' })).filter(
    ({ carrier }) => carrier !== 'load' && carrier !== 'heat',
  );
  if (wanted.length === 0) return [];
  const index = await labelled(store, wanted);
  const byCarrier = new Map(lines.map((line) => [line.carrierId, line]));
  const byPiece = new Map(lines.flatMap((line) => line.pieceIds.map((id) => [id, line] as const)));
  return wanted
    .map((step) => {
      const pieceIds = piecesOfStep(index, step);
      const before = byCarrier.get(step.carrierId) ?? pieceIds.map((id) => byPiece.get(id)).find(Boolean);
      const { startsAt, endsAt, load_ } = today.get(step.id)!;
      const next: NextStep = {
        stepId: step.id,
        kind: step.kind,
        name: stepName(index, step),
        on: carrierLabel(index, step),
        title: worksOfStep(index, step),
        numbers: stepNumbers(index, step, liftLimitKg),
        carrier: step.carrier,
        carrierId: step.carrierId,
        room: roomOfStep(index, step),
        state: 'planned',
        waits: before ? [before.name] : [],
        held: false,
        readyAt: null,
        tooOldAt: null,
      };
      const dates = { startsAt, endsAt, load: load_ };
      return dayLine(next, { version: step.version, dates, pieceIds, late, after: true });
    })
    .sort((a, b) => (a.plannedStart ?? '').localeCompare(b.plannedStart ?? ''));
}

/** The records that names and numbers of some steps are made from, and no others. */
async function labelled(store: Store, steps: readonly Step[]): Promise<ShopIndex> {
  const of = (carrier: Step['carrier']) => [
    ...new Set(steps.filter((step) => step.carrier === carrier).map(({ carrierId }) => carrierId)),
  ];
  const trees = await rowsOf<Tree>(store, 'trees', { id: of('tree') });
  const treeIds = trees.map(({ id }) => id);
  const treeCasts = await rowsOf<TreeCast>(store, 'treeCasts', { treeId: treeIds, until: null });
  const castIds = [...new Set([...of('cast'), ...treeCasts.map(({ castId }) => castId)])];
  const [casts, moulds, weights] = await Promise.all([
    rowsOf<Cast>(store, 'casts', { id: castIds }),
    rowsOf<Mould>(store, 'moulds', { id: of('mould') }),
    rowsOf<Weight>(store, 'weights', { castId: castIds }),
  ]);
  const pieceIds = [...new Set([...of('piece'), ...casts.map(({ pieceId }) => pieceId)])];
  const pieces = await rowsOf<Piece>(store, 'pieces', { id: pieceIds });
  const workIds = [...new Set([...pieces, ...moulds].map(({ workId }) => workId))];
  const [works, sections, treeSteps] = await Promise.all([
    rowsOf<Work>(store, 'works', { id: workIds }),
    rowsOf<Section>(store, 'sections', { workId: workIds }),
    // How a coat is called goes by how many there are: its tree's steps are read with it.
    rowsOf<Step>(store, 'steps', { treeId: treeIds }),
  ]);
  const all = new Map([...treeSteps, ...steps].map((step) => [step.id, step]));
  const rows = { works, sections, pieces, moulds, casts, trees, treeCasts, weights };
  return indexShop({ ...EMPTY_SHOP, ...rows, steps: [...all.values()] });
}
