import type { Id, Room } from '../records/common.ts';
import type { Op } from '../records/shop.ts';
import { insert, update } from '../records/shop.ts';
import { isClosed, isOpen } from '../records/step.ts';
import type { Step, StepKindCode } from '../records/step.ts';
import type { Cast, Piece } from '../records/work.ts';
import type { Instant } from '../units/instant.ts';
import { sidesOf } from './chain.ts';
import { growCast, plannedStep } from './grow.ts';
import type { ShopIndex } from './shop-index.ts';
import type { NewId } from './step-kind.ts';
import { castsOfTree, currentCasts, treeOfCast } from './shop-index.ts';

/** Where, why and when something was lost. */
export interface Loss {
  readonly room: Room;
  readonly why: string;
  readonly at: Instant;
}

/** The changes that make every open step of a carrier void. */
export const voidOpenSteps = (index: ShopIndex, carrierId: Id): Op[] =>
  (index.stepsOf.get(carrierId) ?? []).filter(isOpen).map((step) => update('steps', step.id, { state: 'void' }));

/**
 * A cast is lost: what was open on it becomes void, it leaves its tree (which is lost when nothing is left on it), and the
 * same section grows again as the next attempt. A direct wax has no second attempt: the piece is lost until a person
 * decides. What was done stays done; a seam that was welded opens anew.
 * @param alsoLost other casts lost in the same event, so that a tree of five is lost once
 */
export function loseCastOps(
  index: ShopIndex,
  cast: Cast,
  loss: Loss,
  newId: NewId,
  alsoLost: ReadonlySet<Id> = new Set(),
): Op[] {
  const piece = index.piece.get(cast.pieceId)!;
  const work = index.work.get(piece.workId)!;
  const section = index.section.get(cast.sectionId)!;
  const poured = cast.state === 'metal';
  return [
    update('casts', cast.id, {
      state: 'lost',
      lostRoom: loss.room,
      lostWhy: shortened(loss.why),
      lostAt: loss.at,
      recast: poured,
    }),
    ...voidOpenSteps(index, cast.id),
    ...leaveTree(index, cast, loss.at, alsoLost),
    ...(section.method === 'direct'
      ? [update('pieces', piece.id, { state: 'lost' })]
      : [
          ...growCast(newId, index.route(piece.routeVersion), work, section, piece.id, nextAttempt(index, cast)),
          ...reopenPiece(index, piece, cast, newId),
        ]),
  ];
}

/** A tree is lost with everything on it: each cast grows again. */
export function loseTree(index: ShopIndex, treeId: Id, loss: Loss, newId: NewId): Op[] {
  const casts = castsOfTree(index, treeId);
  const all = new Set(casts.map((cast) => cast.id));
  return casts.flatMap((cast) => loseCastOps(index, cast, loss, newId, all));
}

/** The number of a section's next attempt: it rises with every one, the void ones included. */
export const nextAttempt = (index: ShopIndex, cast: Cast): number =>
  Math.max(
    ...(index.castsOf.get(cast.pieceId) ?? [])
      .filter((each) => each.sectionId === cast.sectionId)
      .map((each) => each.attempt),
  ) + 1;

function leaveTree(index: ShopIndex, cast: Cast, at: Instant, alsoLost: ReadonlySet<Id>): Op[] {
  const tree = treeOfCast(index, cast.id);
  if (!tree) return [];
  const member = (index.treesOf.get(cast.id) ?? []).find((each) => each.until === null)!;
  const left = castsOfTree(index, tree.id).filter((each) => each.id !== cast.id && !alsoLost.has(each.id));
  const knockedOut = tree.state === 'knocked out';
  const begun = (index.stepsOf.get(tree.id) ?? []).some((step) => step.state !== 'planned' && step.state !== 'void');
  return [
    update('treeCasts', member.id, { until: at }),
    ...(left.length === 0 && !knockedOut
      ? [update('trees', tree.id, { state: begun ? 'lost' : 'void' }), ...voidOpenSteps(index, tree.id)]
      : []),
  ];
}

function reopenPiece(index: ShopIndex, piece: Piece, lost: Cast, newId: NewId): Op[] {
  const { metal } = sidesOf(index, piece.id);
  const joins = (step: Step): boolean => index.kind(step).joinsSection === true;
  const closed = metal.filter(isClosed);
  const last = closed.at(-1);
  if (!last) return [];
  const ordinal = index.section.get(lost.sectionId)?.ordinal;
  // Losing the first section takes every seam apart, since it carries the others.
  const opened = closed.filter((step) => joins(step) && (ordinal === 1 || step.sectionId === lost.sectionId));
  const isJoinOpen = (sectionId: Id | null) =>
    metal.some((step) => joins(step) && step.sectionId === sectionId && isOpen(step));
  const again = new Map(
    opened.filter(({ sectionId }) => !isJoinOpen(sectionId)).map(({ kind, sectionId }) => [sectionId, kind]),
  );
  const repeats = index.kinds
    .filter(({ afterJoining }) => afterJoining)
    .map(({ code }) => code)
    .filter(
      (kind) => closed.some((step) => step.kind === kind) && !metal.some((step) => step.kind === kind && isOpen(step)),
    );
  const wanted: [StepKindCode, Partial<Step>][] = [
    ...[...again].map(([sectionId, kind]): [StepKindCode, Partial<Step>] => [kind, { sectionId }]),
    ...repeats.map((kind): [StepKindCode, Partial<Step>] => [kind, {}]),
  ];
  return insertAfter(last, wanted, 'a section is cast again', newId).map((step) => insert('steps', step));
}

/** Why a step was put in is a line, not a page; the whole note stays on the step that asked for it. */
const LONGEST_WHY = 500;
export const shortened = (why: string): string =>
  why.length > LONGEST_WHY ? `${why.slice(0, LONGEST_WHY - 1)}…` : why;

/** New steps one after another behind a step of the same carrier. */
export function insertAfter(
  after: Step,
  wanted: readonly (readonly [StepKindCode, Partial<Step>])[],
  why: string,
  newId: NewId,
): Step[] {
  const made: Step[] = [];
  for (const [kind, rest] of wanted) {
    const previous: Step = made.at(-1) ?? after;
    made.push(
      plannedStep(newId, kind, after.carrier, after.carrierId, {
        ...rest,
        insertedAfter: previous.id,
        insertedWhy: shortened(why),
      }),
    );
  }
  return made;
}

/** All waxes of a piece are refused: each is lost and grows again. */
export function refuseWaxes(index: ShopIndex, piece: Piece, loss: Loss, newId: NewId): Op[] {
  const waxes = currentCasts(index, piece).filter((cast) => cast.state === 'wax');
  const all = new Set(waxes.map((cast) => cast.id));
  return waxes.flatMap((cast) => loseCastOps(index, cast, loss, newId, all));
}

/** A direct wax was lost and a person decides to model it again from nothing: the piece is back in work. */
export function modelAgainOps(index: ShopIndex, piece: Piece, newId: NewId): Op[] {
  const work = index.work.get(piece.workId)!;
  const sections = index.sectionsOf.get(work.id) ?? [];
  const present = new Set(currentCasts(index, piece).map((cast) => cast.sectionId));
  const missing = sections.filter((section) => !present.has(section.id));
  return [
    update('pieces', piece.id, { state: 'in work' }),
    ...missing.flatMap((section) => {
      const attempts = (index.castsOf.get(piece.id) ?? []).filter((cast) => cast.sectionId === section.id);
      const lost = attempts.at(-1)!;
      return [
        ...growCast(newId, index.route(piece.routeVersion), work, section, piece.id, nextAttempt(index, lost)),
        ...reopenPiece(index, piece, lost, newId),
      ];
    }),
  ];
}
