import type { Id } from '../records/common.ts';
import { MOST } from '../records/limits.ts';
import type { Mould } from '../records/mould.ts';
import type { Op } from '../records/shop.ts';
import { insert } from '../records/shop.ts';
import type { Piece, Section, Work } from '../records/work.ts';
import type { SetUpWork } from '../records/work-writes.ts';
import type { RouteTemplate } from '../route/template.ts';
import { growMould, growPiece } from '../route/grow.ts';
import { sectionDoubts } from './section-doubts.ts';
import type { Text } from '../units/words.ts';
import { say } from '../units/words.ts';
import type { Act, Doing } from './act.ts';
import { allow, invalidAct, refusedAct } from './act.ts';
import { ROUTES, ROUTE_VERSION } from './routes.ts';

/** What no single field of a set-up shows to be wrong. */
export function wrongSetUp(work: SetUpWork): Record<string, Text> {
  const fields: Record<string, Text> = {};
  const unique = work.method === 'direct';
  const pieces = unique ? 1 : work.editionSize + work.artistProofs;
  if (pieces === 0) fields['editionSize'] = 'an edition needs at least one piece';
  if (unique && work.editionSize + work.artistProofs !== 1)
    fields['editionSize'] = 'a direct wax is unique: 1 piece, no proofs';
  if (pieces * work.sections.length > MOST.casts)
    fields['editionSize'] = `${pieces} pieces of ${work.sections.length} sections are more than ${MOST.casts} casts`;
  work.moulds.forEach((mould, i) => {
    if (mould.sections.some((place) => place > work.sections.length))
      fields[`moulds.${i}.sections`] = 'names a section that is not there';
  });
  if (unique && work.moulds.length > 0) fields['moulds'] = 'a direct wax has no mould';
  const made = new Set(work.moulds.flatMap((mould) => mould.sections));
  const missing = work.sections.filter((_, i) => !made.has(i + 1));
  if (!unique && missing.length > 0) fields['moulds'] = `no mould makes ${missing.map(({ name }) => name).join(', ')}`;
  return fields;
}

/** Sets up a work: its sections, moulds, pieces, and every step of every piece as the newest route wants them. */
export function setUpWork(
  given: SetUpWork,
  doing: Doing,
  route: RouteTemplate = ROUTES.find(({ version }) => version === ROUTE_VERSION)!,
): Act<{ id: Id; pieceIds: Id[] }> {
  const wrong = wrongSetUp(given);
  if (Object.keys(wrong).length > 0) return invalidAct(wrong);
  const asked = allow(sectionDoubts(given.sections), doing);
  if (asked.left.length > 0) return refusedAct(asked.left);
  const { newId } = doing;
  const { sections: _s, moulds: _m, dueDate, override: _o, ...rest } = given;
  const work: Work = { ...rest, number: 0, routeVersion: route.version, version: 1 };
  const sections = sectionsOf(given, newId);
  const pieces = piecesOf(given, dueDate, route.version, newId);
  const moulds = mouldsOf(given, sections, newId);
  const ops: Op[] = [
    insert('works', work),
    ...sections.map((section) => insert('sections', section)),
    ...pieces.map((piece) => insert('pieces', piece)),
    ...moulds.flatMap((mould) => growMould(newId, route, mould)),
    ...pieces.flatMap((piece, i) =>
      growPiece(
        newId,
        { ...route, coatPlan: doing.settings.coatPlans[0]!, inTwoStages: doing.settings.firingStages === 2 },
        work,
        sections,
        piece,
        i === 0,
      ),
    ),
  ];
  return {
    refusals: [],
    fields: {},
    passed: asked.passed,
    ops: inTableOrder(ops),
    answer: { id: work.id, pieceIds: pieces.map(({ id }) => id) },
    tell: () => ({
      event: {
        verb: 'set up work',
        text: say`${given.title} by ${given.artist} set up: edition of ${editionInWords(given)}`,
      },
      concerns: [['work', work.id], ...pieces.map(({ id }) => ['piece', id] as const)],
    }),
  };
}

/** `8 + 1 AP`. */
export const editionInWords = ({
  editionSize,
  artistProofs,
}: Pick<SetUpWork, 'editionSize' | 'artistProofs'>): string =>
  `${editionSize}${artistProofs > 0 ? ` + ${artistProofs} AP` : ''}`;

/** The records of the sections that are given. */
export const sectionsOf = (given: SetUpWork, newId: () => Id): Section[] =>
  given.sections.map(({ typed, ...section }, i) => ({
    ...section,
    typed: typed ?? {},
    id: newId(),
    workId: given.id,
    ordinal: i + 1,
    method: given.method,
    version: 1,
  }));

/** The records of the moulds that are given, for sections in the order in which they were given. */
export const mouldsOf = (given: SetUpWork, sections: readonly Section[], newId: () => Id): Mould[] =>
  given.moulds.map(({ name, sections: places, pullsBefore }) => ({
    id: newId(),
    number: 0,
    workId: given.id,
    name,
    sectionIds: places.map((place) => sections[place - 1]!.id),
    state: 'making',
    lifePulls: null,
    pullsBefore,
    version: 1,
  }));

/** A piece for each number of the edition and each proof, none begun. */
export function piecesOf(given: SetUpWork, dueDate: string | null, routeVersion: number, newId: () => Id): Piece[] {
  const piece = (series: Piece['series'], number: number, of: number): Piece => ({
    id: newId(),
    workId: given.id,
    series,
    number,
    of,
    state: 'not begun',
    markInWax: null,
    dueDate,
    priority: 'usual',
    holdReason: null,
    holdUntil: null,
    holdShells: null,
    deliveredAt: null,
    orderId: null,
    routeVersion,
    version: 1,
  });
  if (given.method === 'direct') return [piece('unique', 1, 1)];
  const run = (series: Piece['series'], of: number) => Array.from({ length: of }, (_, i) => piece(series, i + 1, of));
  return [...run('edition', given.editionSize), ...run('ap', given.artistProofs)];
}

const TABLE_ORDER = ['works', 'sections', 'pieces', 'moulds', 'casts', 'trees', 'treeCasts', 'steps'];

/** The same inserts, table by table, so that each table is written at once. */
export const inTableOrder = (ops: readonly Op[]): Op[] =>
  [...ops].sort((a, b) => TABLE_ORDER.indexOf(a.table) - TABLE_ORDER.indexOf(b.table));
