import type { Id } from '../records/common.ts';
import type { Op } from '../records/shop.ts';
import { insert, remove, update } from '../records/shop.ts';
import type { Mould } from '../records/mould.ts';
import type { Piece, Section, Work } from '../records/work.ts';
import { markOf } from '../records/work.ts';
import type { SetUpWork } from '../records/work-writes.ts';
import { never } from '../records/refusal.ts';
import type { Refusal } from '../records/refusal.ts';
import { growMould, growPiece } from '../route/grow.ts';
import type { ShopIndex } from '../route/shop-index.ts';
import { sectionDoubts } from './section-doubts.ts';
import { say } from '../units/words.ts';
import type { Text } from '../units/words.ts';
import type { Act, Doing } from './act.ts';
import { allow, counted, invalidAct, refusedAct } from './act.ts';
import { editionInWords, inTableOrder, mouldsOf, piecesOf, sectionsOf, wrongSetUp } from './set-up-work.ts';

/** Records of a work in an order in which each may go before those that it names. */
const REMOVAL = ['steps', 'treeCasts', 'trees', 'casts', 'moulds', 'pieces', 'sections', 'works'] as const;

interface Grown {
  readonly rows: Readonly<Record<(typeof REMOVAL)[number], readonly Id[]>>;
}

/** Everything that was grown for a work, where nothing of it was begun. */
function grownOf(index: ShopIndex, work: Work): Grown['rows'] {
  const ids = (records: readonly { readonly id: Id }[] = []) => records.map(({ id }) => id);
  const pieces = ids(index.piecesOf.get(work.id));
  const casts = pieces.flatMap((id) => ids(index.castsOf.get(id)));
  const members = casts.flatMap((id) => index.treesOf.get(id) ?? []);
  const trees = [...new Set(members.map(({ treeId }) => treeId))];
  const moulds = ids(index.mouldsOf.get(work.id));
  const steps = [...pieces, ...casts, ...trees, ...moulds].flatMap((id) => ids(index.stepsOf.get(id)));
  const sections = ids(index.sectionsOf.get(work.id));
  return { steps, treeCasts: ids(members), trees, casts, moulds, pieces, sections, works: [work.id] };
}

/** Why a work is no longer as it was set up: something of it was begun; undefined while nothing is. */
export function begunOf(index: ShopIndex, work: Work): Text | undefined {
  const pieces = index.piecesOf.get(work.id) ?? [];
  const moved = pieces.find(({ state }) => state !== 'not begun');
  if (moved) return say`${work.code} ${markOf(moved)} is ${moved.state}`;
  const grown = grownOf(index, work);
  const touched = grown.steps.map((id) => index.step.get(id)!).find(({ state }) => state !== 'planned');
  if (touched) return say`something was recorded already: ${index.kind(touched).name}`;
  const held = grown.trees.find((id) => index.pouringsOf.has(id) || index.placesOf.has(id));
  return held ? say`a tree of it is in a heat or a load` : undefined;
}

function refusalsOf(index: ShopIndex, work: Work, leaving: readonly Piece[], what: string): Refusal[] {
  const begun = begunOf(index, work);
  if (begun) return [never('begun', say`${work.title} cannot be ${what}: ${begun}.`)];
  const ordered = leaving.filter(({ orderId }) => orderId !== null);
  return ordered.length === 0
    ? []
    : [
        never(
          'in order',
          say`${ordered.map(markOf).join(', ')} of ${work.title} ${ordered.length === 1 ? 'is' : 'are'} in an order: take ${ordered.length === 1 ? 'it' : 'them'} out of it first.`,
        ),
      ];
}

/** Takes a work away that nothing was begun of, with its pieces, moulds and steps; its history stays. */
export function removeWork(index: ShopIndex, work: Work): Act<{ id: Id }> {
  const pieces = index.piecesOf.get(work.id) ?? [];
  const refusals = refusalsOf(index, work, pieces, 'taken away');
  if (refusals.length > 0) return refusedAct(refusals);
  const grown = grownOf(index, work);
  return {
    refusals: [],
    fields: {},
    passed: [],
    ops: REMOVAL.flatMap((table) => grown[table].map((id) => remove(table, id))),
    answer: { id: work.id },
    tell: () => ({
      event: { verb: 'remove work', text: say`${work.title} by ${work.artist} taken away: nothing of it was begun` },
      concerns: [['work', work.id]],
    }),
  };
}

/** What was filled in for a work, as it stands now: for a form that changes it while nothing is begun. */
export function setUpOf(index: ShopIndex, work: Work): SetUpWork {
  const sections = index.sectionsOf.get(work.id) ?? [];
  const place = new Map(sections.map(({ id }, i) => [id, i + 1]));
  const dues = new Set((index.piecesOf.get(work.id) ?? []).map(({ dueDate }) => dueDate));
  const { id, code, title, artist, editionSize, artistProofs, alloyId, method, approval, finish, glyph, finishing } =
    work;
  return {
    id,
    code,
    title,
    artist,
    editionSize,
    artistProofs,
    alloyId,
    method,
    approval,
    finish,
    glyph,
    finishing,
    // Pieces with dates of their own keep them; the form says one for all.
    dueDate: dues.size === 1 ? [...dues][0]! : null,
    sections: sections.map(({ name, wallMm, metalHeightMm, expectedWaxKg, areaCm2, seamM, deep, typed }) => ({
      name,
      wallMm,
      metalHeightMm,
      expectedWaxKg,
      areaCm2,
      seamM,
      deep,
      typed,
    })),
    moulds: (index.mouldsOf.get(work.id) ?? []).map(({ name, sectionIds, pullsBefore }) => ({
      name,
      sections: sectionIds.map((sectionId) => place.get(sectionId)!),
      pullsBefore,
    })),
  };
}

/**
 * Sets a work up anew while nothing of it is begun: sections, moulds and steps grow again from what is given. Pieces of the
 * same number stay themselves, with their due dates and orders; a due date that is given counts for all.
 */
export function setUpAnew(
  index: ShopIndex,
  work: Work,
  given: SetUpWork,
  doing: Doing,
): Act<{ id: Id; pieceIds: Id[] }> {
  const wrong = wrongSetUp(given);
  if (Object.keys(wrong).length > 0) return invalidAct(wrong);
  const { newId } = doing;
  const was = index.piecesOf.get(work.id) ?? [];
  const route = index.route(work.routeVersion);
  const same = (piece: Piece) => was.find(({ series, number }) => series === piece.series && number === piece.number);
  const pieces = piecesOf(given, given.dueDate, work.routeVersion, newId).map((piece) => {
    const old = same(piece);
    return old ? { ...old, of: piece.of, dueDate: given.dueDate ?? old.dueDate } : piece;
  });
  const leaving = was.filter(({ id }) => !pieces.some((piece) => piece.id === id));
  const refusals = refusalsOf(index, work, leaving, 'set up anew');
  const { left, passed } = allow([...refusals, ...sectionDoubts(given.sections)], doing);
  if (left.length > 0) return refusedAct(left);

  const { sections: _s, moulds: _m, dueDate: _d, id: _id, override: _o, ...rest } = given;
  const changed: Work = { ...work, ...rest };
  const sections: Section[] = sectionsOf(given, newId);
  const moulds: Mould[] = mouldsOf(given, sections, newId);
  const grown = { ...grownOf(index, work), pieces: leaving.map(({ id }) => id), works: [] };
  const old = new Set(was.map(({ id }) => id));
  return {
    refusals: [],
    fields: {},
    passed,
    ops: [
      ...REMOVAL.flatMap((table) => grown[table].map((id) => remove(table, id))),
      update('works', work.id, rest),
      ...pieces.filter(({ id }) => old.has(id)).map(({ id, of, dueDate }) => update('pieces', id, { of, dueDate })),
      ...inTableOrder([
        ...sections.map((section) => insert('sections', section)),
        ...pieces.filter(({ id }) => !old.has(id)).map((piece) => insert('pieces', piece)),
        ...moulds.flatMap((mould): Op[] => growMould(newId, route, mould)),
        ...pieces.flatMap((piece, i) =>
          growPiece(
            newId,
            { ...route, coatPlan: doing.settings.coatPlans[0]!, inTwoStages: doing.settings.firingStages === 2 },
            changed,
            sections,
            piece,
            i === 0,
          ),
        ),
      ]),
    ],
    answer: { id: work.id, pieceIds: pieces.map(({ id }) => id) },
    tell: () => ({
      event: {
        verb: 'change work',
        text: say`${given.title} set up anew: edition of ${editionInWords(given)}, ${counted(sections.length, 'section')}`,
      },
      concerns: [['work', work.id], ...pieces.map(({ id }) => ['piece', id] as const)],
    }),
  };
}
