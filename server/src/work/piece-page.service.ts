import type {
  AttemptView,
  Cast,
  HistoryLine,
  Id,
  LaneView,
  OpenItemView,
  PieceAnswer,
  PieceProjection,
  Room,
  Section,
  ShopIndex,
  Step,
  StepView,
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
  standings,
  treeFigures,
  wetSince,
} from '@kalvet/core';
import { QueryTypes } from 'sequelize';
import { asInstant } from '../db/tables.ts';
import { changeNumber } from '../live/changes.ts';
import { today } from '../people/clock.ts';
import { people } from '../people/people.service.ts';
import { settingsOf } from '../people/settings.ts';
import { stepView } from '../route/step-view.ts';
import { TAKEN_BACK } from '../route/take-back.service.ts';
import { currentPlan, plannedDates } from '../plan/read-plan.ts';
import { loadShop, sharing } from '../shop/load.ts';
import { stored } from '../shop/stored.ts';
import type { Store } from '../write/context.ts';
import { notFound } from '../write/problem.ts';
import type { Server } from '../write/request.ts';
import { floorPiece } from './floor.service.ts';
import { ordersOf, withOrderDue } from './orders.ts';

/** A piece's passport: where it stands, each section's steps, weights, trees, and everything that happened. */
export async function pieceAnswer({ store, now }: Server, id: Id): Promise<PieceAnswer> {
  const [found] = await store.db.query<{ workId: Id }>('SELECT workId FROM piece WHERE id = ?', {
    replacements: [id],
    type: QueryTypes.SELECT,
  });
  if (!found) throw notFound('piece');
  const change = await changeNumber(store);
  const settings = await settingsOf(store);
  const index = indexShop(await loadShop(store, { workIds: await sharing(store, [found.workId]), alsoPieces: [id] }));
  const piece = index.piece.get(id)!;
  const work = index.work.get(piece.workId)!;
  const data = (await stored<PieceProjection>(store, 'piece', [id])).get(id);
  if (!data) throw notFound('piece');
  const known = new Map((await people(store)).map((person) => [person.id, person]));
  const standing = standings(index);
  const plan = await currentPlan(store);
  const dates = await plannedDates(store, plan.stand.planId, stepsOn(index, id));
  const view = (step: Step): StepView => stepView(index, standing.get(step.id), step, known, dates.get(step.id));
  const sections = index.sectionsOf.get(work.id) ?? [];
  const lanes = sections.map((section) => lane(index, id, section, view, settings.waxBand));
  const treeIds = [
    ...new Set(
      lanes.flatMap(({ attempts }) => attempts.flatMap(({ tree }) => (tree && tree.state !== 'void' ? [tree.id] : []))),
    ),
  ];
  const [out] = await store.db.query<{ count: number }>(
    "SELECT COUNT(*) AS count FROM piece WHERE workId = ? AND state = 'delivered'",
    {
      replacements: [work.id],
      type: QueryTypes.SELECT,
    },
  );
  return {
    change,
    plan: plan.stand,
    piece: {
      ...floorPiece(
        withOrderDue([piece], await ordersOf(store))[0]!,
        data,
        today(now(), settings.timeZone),
        plan.pieces.get(id),
      ),
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
      delivered: Number(out?.count ?? 0),
      of: work.editionSize + work.artistProofs,
    },
    lanes,
    pieceSteps: chainOf(index.stepsOf.get(id) ?? []).map(view),
    trees: treeIds.map((treeId) => {
      const figures = treeFigures(index, treeId, settings.liftLimitKg);
      return {
        id: treeId,
        number: index.tree.get(treeId)!.number,
        casts: (index.membersOf.get(treeId) ?? []).flatMap(({ castId, until }) =>
          until === null && index.cast.has(castId) ? [castLabel(index, index.cast.get(castId)!)] : [],
        ),
        wetSince: ['planned', 'joined'].includes(index.tree.get(treeId)!.state)
          ? wetSince(index.stepsOf.get(treeId) ?? [])
          : null,
        pourWeight: figures.metal?.pourWeight ?? null,
        yield: figures.metal?.yield ?? null,
        shell: figures.shell ?? null,
        dipping: figures.dipping ?? null,
        poured: figures.poured ?? null,
      };
    }),
    openItems: openItems(index, id),
    history: await history(store, id),
    waxBand: settings.waxBand,
  };
}

/** The ledger of a piece's casts, lost ones left out. */
function openItems(index: ShopIndex, pieceId: Id): OpenItemView[] {
  const casts = new Map(
    (index.castsOf.get(pieceId) ?? []).filter(({ state }) => state !== 'lost').map((cast) => [cast.id, cast]),
  );
  return index.shop.openItems
    .filter(({ castId }) => casts.has(castId))
    .map(({ closedNote: _, ...item }) => ({ ...item, cast: castLabel(index, casts.get(item.castId)!) }));
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
  if (first?.kind !== 'pull') return [];
  const used = first.readings['mouldId'];
  const mouldId = typeof used === 'string' ? used : mouldsFor(index, cast.sectionId)[0]?.id;
  return chainOf(index.stepsOf.get(mouldId ?? '') ?? []);
}

/** One attempt's steps in the order they happen: wax, the tree it is or was last in, metal. */
function attempt(index: ShopIndex, cast: Cast, view: (step: Step) => StepView): AttemptView {
  const { wax, metal } = sidesOf(index.stepsOf.get(cast.id) ?? []);
  const members = index.treesOf.get(cast.id) ?? [];
  const last =
    members.find(({ until }) => until === null) ??
    [...members].sort((a, b) => (a.until ?? '').localeCompare(b.until ?? '')).at(-1);
  const tree = last && index.tree.get(last.treeId);
  const lost = cast.lostAt;
  const onTree = chainOf(index.stepsOf.get(tree?.id ?? '') ?? []).filter(
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
          wetSince: wetSince(index.stepsOf.get(tree.id) ?? []),
        }
      : null,
    steps: [...mouldSteps(index, cast, wax[0]), ...wax, ...onTree, ...metal].map(view),
  };
}

interface EventRow {
  readonly number: number;
  readonly verb: string;
  readonly text: string;
  readonly room: Room | null;
  readonly doneAt: Date | string;
  readonly typedAt: Date | string;
  readonly actor: string | null;
  readonly reason: string | null;
  readonly bad: number;
  readonly takenBackBy: number | null;
}

/** What happened to a record, the newest first. */
export async function history(store: Store, subject: Id, limit = 300): Promise<HistoryLine[]> {
  const rows = await store.db.query<EventRow>(
    `SELECT e.number, e.verb, e.text, e.room, e.doneAt, e.typedAt, p.name AS actor, e.reason, e.bad, e.takenBackBy
       FROM event_subject s JOIN event e ON e.number = s.number LEFT JOIN person p ON p.id = e.actorId
      WHERE s.subject = :subject ORDER BY e.doneAt DESC, e.number DESC LIMIT :limit`,
    { replacements: { subject, limit }, type: QueryTypes.SELECT },
  );
  return rows.map((row) => ({
    number: row.number,
    verb: row.verb,
    text: row.text,
    room: row.room,
    at: asInstant(row.doneAt),
    typedAt: asInstant(row.typedAt),
    actor: row.actor ?? 'Kalvet',
    reason: row.reason,
    bad: row.bad === 1,
    takenBack: row.takenBackBy !== null,
    mayTakeBack: row.takenBackBy === null && TAKEN_BACK.has(row.verb),
  }));
}
