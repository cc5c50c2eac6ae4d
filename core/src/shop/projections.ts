import type { PieceProjection } from '../records/floor-page.ts';
import type { Id } from '../records/common.ts';
import { ROOMS } from '../records/common.ts';
import type { NextStep } from '../records/route.ts';
import type { Shop } from '../records/shop.ts';
import type { Tree } from '../records/sprue.ts';
import type { Step } from '../records/step.ts';
import { isClosed } from '../records/step.ts';
import type { Piece } from '../records/work.ts';
import { chainOf, firstOpen } from '../route/chain.ts';
import { carrierLabel, stepName, worksOfStep } from '../route/labels.ts';
import type { ShopIndex } from '../route/shop-index.ts';
import { castsOfTree } from '../route/shop-index.ts';
import type { Standing } from '../route/standing.ts';
import { piecesOfStep, roomOfStep, standings, waitsInWords } from '../route/standing.ts';
import { placeOf } from '../route/where.ts';
import { coatLedger } from './coat-ledger.ts';
import { mouldDecisions, mouldInUse, mouldUse, pieceDecisions } from './decisions.ts';
import { indexShop } from './index-shop.ts';
import { stepNumbers } from './step-numbers.ts';
import { pieceWeight } from './piece-weight.ts';
import { treeFigures } from './tree-figures.ts';

/** A stored projection: what lists and the Floor read without working the route out again. */
export interface Projection {
  readonly id: Id;
  readonly carrier: 'piece' | 'tree' | 'mould';
  readonly workId: Id | null;
  readonly room: string | null;
  readonly readyAt: string | null;
  readonly tooOldAt: string | null;
  readonly data: unknown;
  /** What one page alone shows of it, kept apart so that the others need not read it: a tree's coats. */
  readonly beside: unknown;
}

/** The shop's own figures that projections are worked out with. */
export interface ProjectedWith {
  readonly waxBand: number;
  readonly liftLimitKg: number;
}

/** What a step is, wherever it is listed: its name, what it is done on and the numbers that it needs. */
export const stepInLists = (index: ShopIndex, step: Step, liftLimitKg: number) => ({
  stepId: step.id,
  kind: step.kind,
  name: stepName(index, step),
  on: carrierLabel(index, step),
  title: worksOfStep(index, step),
  numbers: stepNumbers(index, step, liftLimitKg),
  carrier: step.carrier,
  carrierId: step.carrierId,
  room: roomOfStep(index, step),
});

/** A step as lists show it, with how it stands. */
export function nextStep(index: ShopIndex, standing: Standing, liftLimitKg: number): NextStep {
  const { step } = standing;
  return {
    ...stepInLists(index, step, liftLimitKg),
    state: step.state,
    waits: waitsInWords(index, standing),
    held: standing.held.length > 0,
    readyAt: standing.readyAt,
    tooOldAt: standing.tooOldAt,
  };
}

/** A piece's next steps, furthest behind first; where a wax waits for its mould, the mould's step comes along. */
export function nextSteps(
  index: ShopIndex,
  found: ReadonlyMap<Id, Standing>,
  ids: readonly Id[],
  liftLimitKg: number,
): NextStep[] {
  const own = ids.flatMap((id) => found.get(id) ?? []);
  const moulds = own.flatMap(({ waitsFor }) =>
    waitsFor.filter((step) => step.carrier === 'mould').flatMap((step) => found.get(step.id) ?? []),
  );
  return [...new Set([...moulds, ...own])]
    .map((standing) => nextStep(index, standing, liftLimitKg))
    .sort((a, b) => ROOMS.indexOf(a.room) - ROOMS.indexOf(b.room));
}

function pieceProjection(
  index: ShopIndex,
  found: ReadonlyMap<Id, Standing>,
  piece: Piece,
  { waxBand: band, liftLimitKg }: ProjectedWith,
): PieceProjection {
  const place = placeOf(index, piece);
  const nextIds = [...new Set(place.sections.map((section) => section.nextStepId).filter((id) => id !== null))];
  const steps = [
    ...(index.stepsOf.get(piece.id) ?? []),
    ...place.sections.flatMap(({ castId }) => [
      ...(index.stepsOf.get(castId) ?? []),
      ...(index.treesOf.get(castId) ?? [])
        .filter(({ until }) => until === null)
        .flatMap(({ treeId }) => index.stepsOf.get(treeId) ?? []),
    ]),
  ];
  const ended = steps.filter((step) => isClosed(step) && step.endedAt !== null).map((step) => step.endedAt!);
  return {
    behind: place.behind,
    ahead: place.ahead,
    begun: place.begun,
    sections: place.sections.map((spot) => ({ ...spot, name: index.section.get(spot.sectionId)!.name })),
    next: nextSteps(index, found, nextIds, liftLimitKg),
    since: ended.length > 0 ? ended.reduce((a, b) => (a > b ? a : b)) : null,
    weight: pieceWeight(index, piece, band) ?? null,
    decisions: pieceDecisions(index, piece, band),
  };
}

/** Works out the projections of the given works: their pieces, moulds and trees, and the pieces that share those trees. */
export function projections(shop: Shop, workIds: ReadonlySet<Id>, settings: ProjectedWith): Projection[] {
  const index = indexShop(shop);
  const found = standings(index);
  const treesIn = (pieceIds: ReadonlySet<Id>) =>
    shop.treeCasts
      .filter((member) => member.until === null && pieceIds.has(index.cast.get(member.castId)?.pieceId ?? ''))
      .map(({ treeId }) => treeId);
  const own = new Set(shop.pieces.filter((piece) => workIds.has(piece.workId)).map(({ id }) => id));
  const trees = new Set(treesIn(own));
  const pieces = new Set([
    ...own,
    ...[...trees].flatMap((treeId) => castsOfTree(index, treeId).map((cast) => cast.pieceId)),
  ]);
  return [
    ...[...pieces].map((id): Projection => {
      const piece = index.piece.get(id)!;
      const data = pieceProjection(index, found, piece, settings);
      return {
        id,
        carrier: 'piece',
        workId: piece.workId,
        room: data.behind,
        readyAt: null,
        tooOldAt: null,
        data,
        beside: null,
      };
    }),
    ...[...trees]
      .filter((id) => !isOver(index.tree.get(id)!))
      .map((id) => treeProjection(index, found, id, settings.liftLimitKg)),
    ...shop.moulds
      .filter((mould) => workIds.has(mould.workId))
      .map((mould): Projection => {
        const first = firstOpen(index, chainOf(index, mould.id));
        const next = first && found.has(first.id) ? nextStep(index, found.get(first.id)!, settings.liftLimitKg) : null;
        const piece =
          (index.piecesOf.get(mould.workId) ?? []).find((each) => each.state === 'in work') ??
          index.piecesOf.get(mould.workId)?.[0];
        const data = {
          inUse: mouldInUse(index, mould.id),
          next,
          count: mouldUse(index, mould),
          decisions: mouldDecisions(index, mould),
          pieceId: piece?.id ?? null,
          workId: mould.workId,
          name: mould.name,
          sectionIds: mould.sectionIds,
        };
        return {
          id: mould.id,
          carrier: 'mould',
          workId: mould.workId,
          room: 'mould',
          readyAt: null,
          tooOldAt: null,
          data,
          beside: null,
        };
      }),
  ];
}

function treeProjection(index: ShopIndex, found: ReadonlyMap<Id, Standing>, id: Id, liftLimitKg: number): Projection {
  const tree = index.tree.get(id)!;
  const open = firstOpen(index, chainOf(index, id));
  const standing = open && found.get(open.id);
  const next = standing ? nextStep(index, standing, liftLimitKg) : null;
  const pieceIds = piecesOfStep(index, { carrier: 'tree', carrierId: id });
  const figures = treeFigures(index, id, liftLimitKg);
  const data = {
    next,
    pieceIds,
    alloyId: tree.alloyId,
    state: tree.state,
    pourKg: figures.metal?.pourWeight.value ?? null,
    pour: figures.metal?.pourWeight ?? null,
    waitsFor: standing?.waitsFor.length ?? 0,
  };
  return {
    id,
    carrier: 'tree',
    workId: null,
    room: next?.room ?? null,
    readyAt: next?.readyAt ?? null,
    tooOldAt: next?.tooOldAt ?? null,
    data,
    beside: next?.room === 'shell' ? coatLedger(index, id, liftLimitKg) : null,
  };
}

/** A tree that is lost, emptied or knocked out: nothing stands on it any more, so nothing is kept ready of it. */
export const isOver = (tree: Tree): boolean => ['void', 'lost', 'knocked out'].includes(tree.state);
