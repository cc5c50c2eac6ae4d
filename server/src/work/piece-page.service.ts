import { dayIn } from '@kalvet/core';
import type {
  AttemptView,
  Cast,
  Id,
  LaneView,
  OpenItemView,
  Piece,
  PieceAnswer,
  PieceProjection,
  Section,
  ShopIndex,
  Step,
  StepView,
  HistoryLine,
  Sight,
} from '@kalvet/core';
import {
  castLabel,
  castWeights,
  chainOf,
  currentCast,
  indexShop,
  isOpen,
  mouldsFor,
  sectionLetter,
  sidesOf,
  pullOf,
  standings,
  stepView,
  veiled,
  SIGHTS,
  inWords,
  treeFigures,
  wetSince,
} from '@kalvet/core';
import { changeNumber } from '../live/changes.ts';
import { people } from '../people/person-of.ts';
import { settingsOf } from '../people/settings.ts';
import { currentPlan, plannedDates } from '../plan/read-plan.ts';
import { loadShop, sharing } from '../shop/load.ts';
import { rowsOf } from '../db/rows.ts';
import { stored } from '../shop/stored.ts';
import { notFound } from '../write/problem.ts';
import type { Server } from '../http/request.ts';
import { floorPiece } from './floor.service.ts';
import { history } from './history.service.ts';
import { ordersOf, withOrderDue } from './orders.ts';

/** A piece's passport: where it stands, each section's steps, weights, trees, and everything that happened. */
export async function pieceAnswer(
  { store, now }: Server,
  id: Id,
  sights: readonly Sight[] = SIGHTS,
): Promise<PieceAnswer> {
  const [found] = await rowsOf<Piece>(store, 'pieces', { id });
  if (!found) throw notFound('piece');
  const change = await changeNumber(store);
  const settings = await settingsOf(store);
  const index = indexShop(await loadShop(store, { workIds: await sharing(store, [found.workId]), alsoPieces: [id] }));
  const piece = index.piece.get(id)!;
  const work = index.work.get(piece.workId)!;
  const data = (await stored<PieceProjection>(store, 'piece', [id])).get(id);
  if (!data) throw notFound('piece');
  const known = new Map((await people(store)).map((person) => [person.id, person.name]));
  const standing = standings(index);
  const plan = await currentPlan(store);
  const dates = await plannedDates(store, plan.stand.planId, stepsOn(index, id));
  const view = (step: Step): StepView =>
    veiled(index.kind(step), stepView(index, standing.get(step.id), step, known, dates.get(step.id)), sights);
  const sections = index.sectionsOf.get(work.id) ?? [];
  const lanes = sections.map((section) => lane(index, id, section, view, settings.waxBand));
  const treeIds = [
    ...new Set(
      lanes.flatMap(({ attempts }) => attempts.flatMap(({ tree }) => (tree && tree.state !== 'void' ? [tree.id] : []))),
    ),
  ];
  const delivered = await store.models.pieces.count({ where: { workId: work.id, state: 'delivered' } });
  const orders = await ordersOf(store);
  const order = orders.find((each) => each.id === piece.orderId);
  return {
    change,
    plan: plan.stand,
    piece: {
      ...floorPiece(withOrderDue([piece], orders)[0]!, data, dayIn(now(), settings.timeZone), plan.pieces.get(id)),
      markInWax: piece.markInWax,
      deliveredAt: piece.deliveredAt,
    },
    work: {
      id: work.id,
      code: work.code,
      title: work.title,
      artist: work.artist,
      alloyId: work.alloyId,
      method: work.method,
      approval: work.approval,
      finish: work.finish,
      glyph: work.glyph,
      delivered,
      of: work.editionSize + work.artistProofs,
    },
    order: order
      ? {
          id: order.id,
          number: order.number,
          title: order.title,
          client: sights.includes('clients') ? order.client : null,
          dueDate: order.dueDate,
        }
      : null,
    lanes,
    pieceSteps: chainOf(index, id).map(view),
    trees: treeIds.map((treeId) => {
      const figures = treeFigures(index, treeId, settings.liftLimitKg);
      return {
        id: treeId,
        number: index.tree.get(treeId)!.number,
        casts: (index.membersOf.get(treeId) ?? []).flatMap(({ castId, until }) =>
          until === null && index.cast.has(castId) ? [castLabel(index, index.cast.get(castId)!)] : [],
        ),
        loads: distinct((index.placesOf.get(treeId) ?? []).flatMap(({ loadId }) => index.load.get(loadId) ?? [])),
        heats: distinct((index.pouringsOf.get(treeId) ?? []).flatMap(({ heatId }) => index.heat.get(heatId) ?? [])),
        wetSince: wetAfterFiring(index, treeId),
        pourWeight: figures.metal?.pourWeight ?? null,
        yield: figures.metal?.yield ?? null,
        shell: figures.shell ?? null,
        dipping: figures.dipping ?? null,
        // Cut off and knocked out, nobody lifts it as a whole any more.
        poured: figures.poured
          ? { ...figures.poured, tooHeavy: figures.poured.tooHeavy && index.tree.get(treeId)!.state !== 'knocked out' }
          : null,
      };
    }),
    openItems: openItems(index, id),
    history: (await history(store, id)).map((each) => (sights.includes('recipes') ? each : withoutRecipe(each))),
    waxBand: settings.waxBand,
  };
}

/** Records from before told the recipe in the history too. */
const withoutRecipe = (line: HistoryLine): HistoryLine =>
  line.room === 'patina' && inWords(line.text).includes('recipe ') ? { ...line, text: 'Patina recorded' } : line;

/** The ledger of a piece's casts, lost ones left out. */
function openItems(index: ShopIndex, pieceId: Id): OpenItemView[] {
  const casts = new Map(
    (index.castsOf.get(pieceId) ?? []).filter(({ state }) => state !== 'lost').map((cast) => [cast.id, cast]),
  );
  return index.shop.openItems
    .filter(({ castId }) => casts.has(castId))
    .map(({ closedNote: _, ...item }) => ({ ...item, cast: castLabel(index, casts.get(item.castId)!) }));
}

const distinct = <T extends { readonly id: Id; readonly number: number }>(rows: readonly T[]) =>
  [...new Map(rows.map(({ id, number }) => [id, { id, number }])).values()].sort((a, b) => a.number - b.number);

/** A green shell is wet as a matter of course; one that was fired and is wet again must not be poured. */
function wetAfterFiring(index: ShopIndex, treeId: Id): string | null {
  const fired = (index.stepsOf.get(treeId) ?? []).some((step) => index.kind(step).dries && step.state === 'done');
  return fired && index.tree.get(treeId)!.state === 'joined' ? wetSince(index, treeId) : null;
}

/** Every open step on a piece's way: its own, its casts', their trees' and its work's moulds'. */
function stepsOn(index: ShopIndex, pieceId: Id): Id[] {
  const casts = index.castsOf.get(pieceId) ?? [];
  const trees = casts.flatMap(({ id }) => (index.treesOf.get(id) ?? []).map(({ treeId }) => treeId));
  const moulds = index.mouldsOf.get(index.piece.get(pieceId)!.workId) ?? [];
  return [pieceId, ...casts.map(({ id }) => id), ...trees, ...moulds.map(({ id }) => id)]
    .flatMap((carrierId) => index.stepsOf.get(carrierId) ?? [])
    .filter(isOpen)
    .map(({ id }) => id);
}

function lane(index: ShopIndex, pieceId: Id, section: Section, view: (step: Step) => StepView, band: number): LaneView {
  const attempts = (index.castsOf.get(pieceId) ?? []).filter(
    (cast) => cast.sectionId === section.id && cast.state !== 'void',
  );
  const weights = castWeights(
    index,
    section,
    currentCast(index, pieceId, section.id)?.id ?? attempts.at(-1)?.id ?? '',
    band,
  );
  const { deviation } = weights;
  return {
    sectionId: section.id,
    name: section.name,
    letter: sectionLetter(section.ordinal),
    method: section.method,
    attempts: attempts.map((cast) => attempt(index, cast, view)),
    plannedWax: weights.plannedWax ?? null,
    plannedCast: weights.plannedCast ?? null,
    wax: weights.wax ?? null,
    castFromWax: weights.castFromWax ?? null,
    cast: weights.cast ?? null,
    wall: weights.wall ?? null,
    wallTargetMm: section.wallMm,
    deviation: deviation ? { share: deviation.share, flagged: deviation.flagged, inWords: deviation.inWords } : null,
  };
}

/** The making and mending of the mould that the wax came, or will come, from. */
function mouldSteps(index: ShopIndex, cast: Cast, first: Step | undefined): Step[] {
  if (!first || !index.kind(first).usesMould) return [];
  const mouldId = pullOf(index, cast.id)?.mouldId ?? mouldsFor(index, cast.sectionId)[0]?.id;
  return mouldId ? [...chainOf(index, mouldId)] : [];
}

/** One attempt's steps in the order they happen: wax, the tree it is or was last in, metal. */
function attempt(index: ShopIndex, cast: Cast, view: (step: Step) => StepView): AttemptView {
  const { wax, metal } = sidesOf(index, cast.id);
  const members = index.treesOf.get(cast.id) ?? [];
  const last =
    members.find(({ until }) => until === null) ??
    [...members].sort((a, b) => (a.until ?? '').localeCompare(b.until ?? '')).at(-1);
  const tree = last && index.tree.get(last.treeId);
  const lost = cast.lostAt;
  const onTree = (tree ? chainOf(index, tree.id) : []).filter(
    (step) => lost === null || (step.endedAt !== null && step.endedAt <= lost),
  );
  return {
    castId: cast.id,
    label: castLabel(index, cast),
    attempt: cast.attempt,
    state: cast.state,
    lostRoom: cast.lostRoom,
    lostWhy: cast.lostWhy,
    lostAt: lost,
    version: cast.version,
    tree: tree
      ? {
          id: tree.id,
          number: tree.number,
          state: tree.state,
          wetSince: wetSince(index, tree.id),
        }
      : null,
    steps: [...mouldSteps(index, cast, wax[0]), ...wax, ...onTree, ...metal].map(view),
  };
}
