import type { Companion, Id, Piece, ShopIndex, Standing, Step, StepForm } from '@kalvet/core';
import {
  carrierLabel,
  castLabel,
  castsOfTree,
  companions,
  indexShop,
  markOf,
  mayJoin,
  mouldCount,
  mouldsFor,
  plannedWax,
  standings,
  standsNow,
  treeFigures,
  weightThatCounts,
} from '@kalvet/core';
import { openLoads } from '../burnout/load.service.ts';
import { people } from '../people/people.service.ts';
import { settingsOf } from '../people/settings.ts';
import { openHeats, returnsAtHand } from '../pour/heat-read.service.ts';
import { asInstant, fromRow } from '../db/tables.ts';
import { loadShop, sharing } from '../shop/load.ts';
import type { Server } from '../write/request.ts';
import { notFound } from '../write/problem.ts';
import { stepView } from './step-view.ts';
import type { Store } from '../write/context.ts';
import { QueryTypes } from 'sequelize';

async function workIdsOf(store: Store, step: Step): Promise<Id[]> {
  const sql = {
    piece: 'SELECT workId FROM piece WHERE id = :id',
    mould: 'SELECT workId FROM mould WHERE id = :id',
    cast: 'SELECT p.workId FROM piece p JOIN cast_ c ON c.pieceId = p.id WHERE c.id = :id',
    tree: 'SELECT DISTINCT p.workId FROM tree_cast m JOIN cast_ c ON c.id = m.castId JOIN piece p ON p.id = c.pieceId WHERE m.treeId = :id',
    load: '',
    heat: '',
  }[step.carrier];
  if (!sql) return [];
  const rows = await store.db.query<{ workId: Id }>(sql, {
    replacements: { id: step.carrierId },
    type: QueryTypes.SELECT,
  });
  return rows.map(({ workId }) => workId);
}

/** What the record panel needs for a step: its standing, and what can be chosen. */
export async function stepForm({ store, now }: Server, id: Id): Promise<StepForm> {
  const row = await store.models.steps.findByPk(id, { raw: true });
  if (!row) throw notFound('step');
  const step = fromRow<Step>('steps', row as unknown as Record<string, unknown>);
  const settings = await settingsOf(store);
  const own = await workIdsOf(store, step);
  // Whatever may go on the same tree, into the same kiln or crucible can come from any work.
  const wide = ['join-tree', 'fire', 'fire-block', 'refire', 'pour'].includes(step.kind);
  const all = wide
    ? (await store.db.query<{ id: Id }>('SELECT id FROM work', { type: QueryTypes.SELECT })).map((work) => work.id)
    : await sharing(store, own);
  const index = indexShop(
    await loadShop(store, { workIds: all, alsoPieces: step.carrier === 'piece' ? [step.carrierId] : [] }),
  );
  const found = standings(index);
  const known = new Map((await people(store)).map((person) => [person.id, person]));
  const cast = step.carrier === 'cast' ? index.cast.get(step.carrierId) : undefined;
  const section = cast && index.section.get(cast.sectionId);
  const alloyId = section
    ? index.work.get(section.workId)!.alloyId
    : step.carrier === 'tree'
      ? index.tree.get(step.carrierId)?.alloyId
      : undefined;
  const kiln = ['fire', 'fire-block', 'refire'].includes(step.kind);
  const figures = step.carrier === 'tree' ? treeFigures(index, step.carrierId, settings.liftLimitKg) : {};
  const heavy =
    step.kind === 'coat'
      ? [figures.dipping]
      : step.kind === 'knock-out' || step.kind === 'pour'
        ? [figures.poured]
        : [];
  return {
    step: stepView(index, found.get(id), step, known),
    moulds:
      step.kind === 'pull' && cast
        ? mouldsFor(index, cast.sectionId).map((mould) => {
            const { used, left } = mouldCount(index, mould);
            return {
              id: mould.id,
              label: `M-${mould.number} ${mould.name}`,
              used,
              left,
              good: mould.state === 'good',
            };
          })
        : [],
    casts: castChoices(index, step),
    companions: kiln || step.kind === 'pour' ? companionsOf(index, found, step, now(), settings.liftLimitKg) : [],
    heats: step.kind === 'pour' ? (await openHeats(store)).filter((heat) => heat.alloyId === alloyId) : [],
    loads: kiln
      ? (await openLoads(store)).filter((load) => load.trees.some(({ treeId }) => treeId === step.carrierId))
      : [],
    lift: heavy.flatMap((lift) => (lift?.tooHeavy ? [lift.inWords] : [])),
    expectedWaxKg: section ? (plannedWax(section)?.value ?? null) : null,
    earlierWaxes: step.kind === 'chase-wax' && section ? await sectionWaxes(store, section.id) : [],
    alloyId: alloyId ?? pieceAlloy(index, step),
    seamM: step.kind === 'join-section' ? (index.section.get(step.sectionId ?? '')?.seamM ?? null) : null,
    returnsAtHandKg: step.kind === 'pour' && alloyId ? await returnsAtHand(store, alloyId) : 0,
  };
}

const pieceAlloy = (index: ShopIndex, step: Step): string | null => {
  const piece = index.piece.get(step.carrierId);
  return piece ? index.work.get(piece.workId)!.alloyId : null;
};

/** What every wax of a section weighed, also of pieces that have left. */
export async function sectionWaxes(
  store: Store,
  sectionId: Id,
  of: 'wax' | 'cast' = 'wax',
): Promise<{ label: string; kg: number; at: string }[]> {
  const rows = await store.db.query<{
    series: Piece['series'];
    number: number;
    of: number;
    attempt: number;
    kg: number;
    at: Date | string;
  }>(
    `SELECT p.series, p.number, p.\`of\`, c.attempt, x.kg, x.at FROM weight x JOIN cast_ c ON c.id = x.castId
       JOIN piece p ON p.id = c.pieceId
      WHERE c.sectionId = :sectionId AND x.\`of\` = :of AND x.voidReason IS NULL ORDER BY x.at`,
    { replacements: { sectionId, of }, type: QueryTypes.SELECT },
  );
  return rows.map(({ attempt, kg, at, ...piece }) => ({
    label: `${markOf(piece)}${attempt > 1 ? `, attempt ${attempt}` : ''}`,
    kg,
    at: asInstant(at),
  }));
}

/** Casts for the tree's joining and knock-out: those on it, and for joining those that may come along. */
function castChoices(index: ShopIndex, step: Step): StepForm['casts'] {
  if (step.kind !== 'join-tree' && step.kind !== 'knock-out') return [];
  const here = castsOfTree(index, step.carrierId);
  const others =
    step.kind === 'join-tree'
      ? index.shop.casts.filter((cast) => !here.includes(cast) && mayJoin(index, step.carrierId, cast))
      : [];
  return [...here, ...others].map((cast) => ({
    id: cast.id,
    label: castLabel(index, cast),
    waxKg:
      weightThatCounts(index.shop.weights.filter((weight) => weight.castId === cast.id && weight.of === 'wax'))?.kg ??
      null,
    onTree: here.includes(cast),
  }));
}

function companionsOf(
  index: ShopIndex,
  found: ReadonlyMap<Id, Standing>,
  step: Step,
  now: string,
  liftLimitKg: number,
): Companion[] {
  const open = companions(index, step, (candidate) => {
    const standing = found.get(candidate.id);
    return standing !== undefined && standing.waitsFor.length === 0;
  });
  return [step, ...open]
    .map((candidate) => {
      const standing = found.get(candidate.id);
      const stands = standing ? standsNow(standing, now) : 'waits';
      const pour = treeFigures(index, candidate.carrierId, liftLimitKg).metal?.pourWeight;
      return {
        stepId: candidate.id,
        treeId: candidate.carrierId,
        label: carrierLabel(index, candidate),
        ready: stands === 'ready' || stands === 'too old',
        why: stands,
        pourKg: pour?.value ?? null,
        pourWords: pour?.inWords ?? '',
        alloyId: index.tree.get(candidate.carrierId)?.alloyId ?? '',
      };
    })
    .filter((candidate, _, [first]) => candidate.alloyId === first!.alloyId || step.kind !== 'pour');
}
